import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { saveDraft } from "@/server/drafts/save-draft";

/** Keeps what is written in a draft. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await saveDraft(signedIn(locals.viewer), params.draft ?? "", await bodyOf(request)));
