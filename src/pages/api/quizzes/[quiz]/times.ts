import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { setTimes } from "@/server/quizzes/set-times";

/** Sets when a quiz opens, is due and closes, how long and how often it may be taken, and by whom. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await setTimes(signedIn(locals.viewer), params.quiz ?? "", await bodyOf(request)));
