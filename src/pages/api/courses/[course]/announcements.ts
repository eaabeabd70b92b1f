import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { announce } from "@/server/course/announce";

/** Says something to everyone in a course. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await announce(signedIn(locals.viewer), params.course ?? "", await bodyOf(request)), 201);
