import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { json } from "@/server/base/json";
import { attemptPulse } from "@/server/desk/open-desk";

/** How an attempt stands: the server's time, its deadline, whether it is handed in. */
export const GET: APIRoute = async ({ params, locals }) =>
  json(await attemptPulse(signedIn(locals.viewer), params.attempt ?? ""));
