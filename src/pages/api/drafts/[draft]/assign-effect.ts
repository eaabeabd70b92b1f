import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { lookOverAssigning } from "@/server/drafts/assign-draft";

/** What assigning a draft would do; nothing is done. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await lookOverAssigning(signedIn(locals.viewer), params.draft ?? "", await bodyOf(request)));
