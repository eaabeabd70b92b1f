import type { APIRoute } from "astro";
import { bodyOf } from "@/server/input";
import { json } from "@/server/json";
import { changeSettings } from "@/server/quizzes/change-settings";
import { signedIn } from "@/server/viewer";

/** Moves when a quiz opens, is due and closes. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await changeSettings(signedIn(locals.viewer), params.quiz ?? "", await bodyOf(request)));
