import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { json } from "@/server/base/json";
import { pastSittings } from "@/server/drafts/past-sittings";

/** How the questions of a draft behaved in the sittings of its quiz. */
export const GET: APIRoute = async ({ params, locals }) =>
  json(await pastSittings(signedIn(locals.viewer), params.draft ?? ""));
