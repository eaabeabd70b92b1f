import type { APIRoute } from "astro";
import { TRIAL_COOKIE, trialCookie, trialIn } from "@/server/access/trial-cookie";
import { signedIn } from "@/server/access/viewer";
import { json } from "@/server/base/json";
import { startAttempt } from "@/server/desk/start-attempt";

/** Starts an attempt, or answers the one that runs. */
export const POST: APIRoute = async ({ params, locals, cookies }) => {
  const started = await startAttempt(signedIn(locals.viewer), params.quiz ?? "");
  const response = json(started, 201);
  const trial = locals.isTrial ? trialIn(cookies.get(TRIAL_COOKIE)?.value) : null;
  // A quiz that is tried out is tried in its attempts too.
  if (trial)
    response.headers.append(
      "set-cookie",
      trialCookie({ ...trial, ids: [...new Set([...trial.ids, started.attemptId])] }),
    );
  return response;
};
