import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { extendRunning } from "@/server/quizzes/extend-running";

/** An instructor gives more time to running attempts. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await extendRunning(signedIn(locals.viewer), params.quiz ?? "", await bodyOf(request)));
