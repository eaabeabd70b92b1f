import type { APIRoute } from "astro";
import { takeBack } from "@/server/attempts/take-back";
import { json } from "@/server/json";
import { signedIn } from "@/server/viewer";

/** Takes a hand-in back: the same attempt runs again. */
export const POST: APIRoute = async ({ params, locals }) => {
  const attempt = params.attempt ?? "";
  await takeBack(signedIn(locals.viewer), attempt);
  return json({ desk: `/attempts/${attempt}` });
};
