import type { APIRoute } from "astro";
import { endTrialCookie } from "@/server/access/trial-cookie";
import { signedIn } from "@/server/access/viewer";
import { leaveTrial } from "@/server/trials/close-trial";

/** Ends a trial, and goes back to where it was begun. */
export const POST: APIRoute = async ({ locals }) => {
  const { draftId, byLink } = await leaveTrial(signedIn(locals.viewer));
  const location = byLink ? "/check/ended" : `/drafts/${draftId}/trial`;
  return new Response(null, { status: 303, headers: { location, "set-cookie": endTrialCookie() } });
};
