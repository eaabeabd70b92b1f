import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { json } from "@/server/base/json";
import { putDraftAway } from "@/server/drafts/put-away";

/** Puts a draft away that was never assigned. */
export const POST: APIRoute = async ({ params, locals }) => {
  await putDraftAway(signedIn(locals.viewer), params.draft ?? "");
  return json({ done: true });
};
