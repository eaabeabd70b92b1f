import type { APIRoute } from "astro";
import { bodyOf } from "@/server/input";
import { json } from "@/server/json";
import { extendRunning } from "@/server/quizzes/extend-running";
import { signedIn } from "@/server/viewer";

/** An instructor gives more time to running attempts. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await extendRunning(signedIn(locals.viewer), params.quiz ?? "", await bodyOf(request)));
