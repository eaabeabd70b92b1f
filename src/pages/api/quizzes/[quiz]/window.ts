import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { moveWindow } from "@/server/quizzes/move-window";

/** Moves when a quiz opens, is due and closes. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await moveWindow(signedIn(locals.viewer), params.quiz ?? "", await bodyOf(request)));
