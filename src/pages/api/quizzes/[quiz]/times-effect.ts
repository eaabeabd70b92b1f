import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { lookOverTimes } from "@/server/quizzes/set-times";

/** What setting the times of a quiz would do; nothing is changed. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await lookOverTimes(signedIn(locals.viewer), params.quiz ?? "", await bodyOf(request)));
