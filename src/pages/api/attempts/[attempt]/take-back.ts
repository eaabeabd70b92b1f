import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { json } from "@/server/base/json";
import { takeBack } from "@/server/handed-in/take-back";

/** Takes a hand-in back: the same attempt runs again. */
export const POST: APIRoute = async ({ params, locals }) => {
  const attempt = params.attempt ?? "";
  await takeBack(signedIn(locals.viewer), attempt);
  return json({ desk: `/attempts/${attempt}` });
};
