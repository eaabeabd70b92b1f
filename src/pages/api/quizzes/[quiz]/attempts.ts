import type { APIRoute } from "astro";
import { startAttempt } from "@/server/attempts/start-attempt";
import { json } from "@/server/json";
import { signedIn } from "@/server/viewer";

/** Starts an attempt, or answers the one that runs. */
export const POST: APIRoute = async ({ params, locals }) =>
  json(await startAttempt(signedIn(locals.viewer), params.quiz ?? ""), 201);
