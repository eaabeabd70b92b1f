import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { noteSights } from "@/server/desk/note-sights";

/** A desk tells when questions were first on the screen. */
export const POST: APIRoute = async ({ params, locals, request }) => {
  await noteSights(signedIn(locals.viewer), params.attempt ?? "", await bodyOf(request));
  return json({ noted: true });
};
