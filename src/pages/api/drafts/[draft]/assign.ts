import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { assignDraft } from "@/server/drafts/assign-draft";

/** Makes a version of a draft: a quiz, or the next version of one. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await assignDraft(signedIn(locals.viewer), params.draft ?? "", await bodyOf(request)));
