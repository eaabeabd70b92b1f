import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { json } from "@/server/base/json";
import { startAttempt } from "@/server/desk/start-attempt";

/** Starts an attempt, or answers the one that runs. */
export const POST: APIRoute = async ({ params, locals }) =>
  json(await startAttempt(signedIn(locals.viewer), params.quiz ?? ""), 201);
