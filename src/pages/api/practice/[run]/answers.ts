import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { markPractice } from "@/server/practice/practise";

/** Marks a question of a practice run. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await markPractice(signedIn(locals.viewer), params.run ?? "", await bodyOf(request)));
