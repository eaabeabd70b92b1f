import type { APIRoute } from "astro";
import { saveAnswers } from "@/server/attempts/save-answers";
import { json, jsonBody } from "@/server/json";

/** The hot path: saves changes to a running attempt. Checks the session itself, inside its one statement. */
export const POST: APIRoute = async ({ params, request, locals }) =>
  json(await saveAnswers(locals.token, params.attempt ?? "", await jsonBody(request)));
