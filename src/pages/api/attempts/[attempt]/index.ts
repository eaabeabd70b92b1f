import type { APIRoute } from "astro";
import { attemptPulse } from "@/server/attempts/desk";
import { json } from "@/server/json";
import { signedIn } from "@/server/viewer";

/** How an attempt stands: the server's time, its deadline, whether it is handed in. */
export const GET: APIRoute = async ({ params, locals }) =>
  json(await attemptPulse(signedIn(locals.viewer), params.attempt ?? ""));
