import type { APIRoute } from "astro";
import { moveOn } from "@/server/attempts/move-on";
import { bodyOf } from "@/server/input";
import { json } from "@/server/json";
import { signedIn } from "@/server/viewer";

/** Turns the page, where that closes, tells or opens something. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await moveOn(signedIn(locals.viewer), params.attempt ?? "", await bodyOf(request)));
