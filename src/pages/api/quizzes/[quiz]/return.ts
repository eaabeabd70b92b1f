import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { returnWork } from "@/server/marking/return-work";

/** Returns handed-in work of a quiz to its students. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await returnWork(signedIn(locals.viewer), params.quiz ?? "", await bodyOf(request)));
