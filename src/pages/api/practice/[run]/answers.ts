import type { APIRoute } from "astro";
import { bodyOf } from "@/server/input";
import { json } from "@/server/json";
import { markPractice } from "@/server/practice/practise";
import { signedIn } from "@/server/viewer";

/** Marks a question of a practice run. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await markPractice(signedIn(locals.viewer), params.run ?? "", await bodyOf(request)));
