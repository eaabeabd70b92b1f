import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { checkAnswer } from "@/server/desk/check-answer";

/** Checks one saved answer, where the quiz allows tries. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await checkAnswer(signedIn(locals.viewer), params.attempt ?? "", await bodyOf(request)));
