import type { APIRoute } from "astro";
import { bodyOf } from "@/server/input";
import { json } from "@/server/json";
import { sayToDesks } from "@/server/quizzes/desk-notices";
import { signedIn } from "@/server/viewer";

/** Staff say something to everybody who is taking the quiz. */
export const POST: APIRoute = async ({ params, locals, request }) => {
  await sayToDesks(signedIn(locals.viewer), params.quiz ?? "", await bodyOf(request));
  return json({ said: true }, 201);
};
