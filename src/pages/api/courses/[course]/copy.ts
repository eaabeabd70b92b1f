import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { copyQuizzes } from "@/server/drafts/copy-quizzes";

/** Copies quizzes into a course as drafts, with their dates moved together. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await copyQuizzes(signedIn(locals.viewer), params.course ?? "", await bodyOf(request)));
