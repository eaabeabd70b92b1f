import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { moveOn } from "@/server/desk/move-on";

/** Turns the page, where that closes, tells or opens something. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await moveOn(signedIn(locals.viewer), params.attempt ?? "", await bodyOf(request)));
