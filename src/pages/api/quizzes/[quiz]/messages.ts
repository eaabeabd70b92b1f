import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { sayToDesks } from "@/server/quizzes/desk-messages";

/** Staff say something to everybody who is taking the quiz. */
export const POST: APIRoute = async ({ params, locals, request }) => {
  await sayToDesks(signedIn(locals.viewer), params.quiz ?? "", await bodyOf(request));
  return json({ said: true }, 201);
};
