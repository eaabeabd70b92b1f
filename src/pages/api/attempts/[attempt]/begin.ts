import type { APIRoute } from "astro";
import { confirmStart } from "@/server/attempts/desk";
import { json } from "@/server/json";
import { signedIn } from "@/server/viewer";

/** The desk confirms that the first question is on the screen. */
export const POST: APIRoute = async ({ params, locals }) =>
  json(await confirmStart(signedIn(locals.viewer), params.attempt ?? ""));
