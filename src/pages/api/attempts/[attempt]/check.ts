import type { APIRoute } from "astro";
import { checkAnswer } from "@/server/attempts/check-answer";
import { bodyOf } from "@/server/input";
import { json } from "@/server/json";
import { signedIn } from "@/server/viewer";

/** Checks one saved answer, where the quiz allows tries. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await checkAnswer(signedIn(locals.viewer), params.attempt ?? "", await bodyOf(request)));
