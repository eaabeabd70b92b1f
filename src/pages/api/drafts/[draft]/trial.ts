import type { APIRoute } from "astro";
import { trialCookie } from "@/server/access/trial-cookie";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { beginTrial } from "@/server/trials/begin-trial";

/** Begins to try a draft out as a student. */
export const POST: APIRoute = async ({ params, locals, request }) => {
  const { quizId, session } = await beginTrial(
    signedIn(locals.viewer),
    params.draft ?? "",
    await bodyOf(request),
  );
  const response = json({ quizId }, 201);
  response.headers.append("set-cookie", trialCookie({ session, ids: [quizId] }));
  return response;
};
