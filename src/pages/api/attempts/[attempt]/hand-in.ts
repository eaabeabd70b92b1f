import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { handInAttempt } from "@/server/desk/hand-in";

/** Hands an attempt in; once, however often it is asked. */
export const POST: APIRoute = async ({ params, locals, request }) => {
  const attempt = params.attempt ?? "";
  await handInAttempt(signedIn(locals.viewer), attempt, await bodyOf(request));
  return json({ slip: `/attempts/${attempt}/slip` });
};
