import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { bankOfDraft, takeFromBank } from "@/server/drafts/draft-bank";

/** What a draft can take from the banks of its course, as a list. */
export const GET: APIRoute = async ({ params, locals }) =>
  json(await bankOfDraft(signedIn(locals.viewer), params.draft ?? ""));

/** Questions of the banks, whole, which a draft takes. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await takeFromBank(signedIn(locals.viewer), params.draft ?? "", await bodyOf(request)));
