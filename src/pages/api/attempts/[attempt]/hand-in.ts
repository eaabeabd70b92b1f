import type { APIRoute } from "astro";
import { handInAttempt } from "@/server/attempts/hand-in";
import { bodyOf } from "@/server/input";
import { json } from "@/server/json";
import { signedIn } from "@/server/viewer";

/** Hands an attempt in; once, however often it is asked. */
export const POST: APIRoute = async ({ params, locals, request }) => {
  const attempt = params.attempt ?? "";
  await handInAttempt(signedIn(locals.viewer), attempt, await bodyOf(request));
  return json({ slip: `/attempts/${attempt}/slip` });
};
