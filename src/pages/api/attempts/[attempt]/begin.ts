import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { json } from "@/server/base/json";
import { confirmStart } from "@/server/desk/open-desk";

/** The desk confirms that the first question is on the screen. */
export const POST: APIRoute = async ({ params, locals }) =>
  json(await confirmStart(signedIn(locals.viewer), params.attempt ?? ""));
