import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { json } from "@/server/base/json";
import { bringQuiz } from "@/server/drafts/bring-quiz";

/** Brings a quiz file, or its archive, into a course as a draft; answers with the draft's id. */
export const POST: APIRoute = async ({ params, locals, request }) => {
  const viewer = signedIn(locals.viewer);
  return json(await bringQuiz(viewer, params.course ?? "", Buffer.from(await request.arrayBuffer())));
};
