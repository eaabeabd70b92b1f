import type { APIRoute } from "astro";
import { trialCookie } from "@/server/access/trial-cookie";
import { beginCheck } from "@/server/trials/check-links";

/** Begins to check a quiz by a link. */
export const POST: APIRoute = async ({ params }) => {
  const { quizId, session } = await beginCheck(params.secret ?? "", {});
  return new Response(null, {
    status: 303,
    headers: { location: `/quizzes/${quizId}`, "set-cookie": trialCookie({ session, ids: [quizId] }) },
  });
};
