import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { bringBack, savedStates } from "@/server/drafts/draft-history";

/** The states of a draft that can be brought back. */
export const GET: APIRoute = async ({ params, locals }) =>
  json(await savedStates(signedIn(locals.viewer), params.draft ?? ""));

/** Brings one of them back; answers with the pieces that it changed. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await bringBack(signedIn(locals.viewer), params.draft ?? "", await bodyOf(request)));
