import type { APIRoute } from "astro";
import { bodyOf } from "@/server/input";
import { json } from "@/server/json";
import { returnWork } from "@/server/quizzes/return-work";
import { signedIn } from "@/server/viewer";

/** Returns handed-in work of a quiz to its students. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await returnWork(signedIn(locals.viewer), params.quiz ?? "", await bodyOf(request)));
