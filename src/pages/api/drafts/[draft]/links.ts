import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { checkLinksOf, makeCheckLink } from "@/server/trials/check-links";

/** The links by which colleagues check a draft. */
export const GET: APIRoute = async ({ params, locals }) =>
  json(await checkLinksOf(signedIn(locals.viewer), params.draft ?? ""));

/** Makes one; its address is told this once. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await makeCheckLink(signedIn(locals.viewer), params.draft ?? "", await bodyOf(request)), 201);
