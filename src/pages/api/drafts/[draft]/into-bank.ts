import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { putInBank } from "@/server/drafts/draft-bank";

/** Puts a question of a draft into the bank; answers with the pieces that this changed. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await putInBank(signedIn(locals.viewer), params.draft ?? "", await bodyOf(request)));
