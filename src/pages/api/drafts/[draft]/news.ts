import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { draftNews } from "@/server/drafts/draft-news";

/** What has changed in a draft since this page asked last, and who else writes in it. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await draftNews(signedIn(locals.viewer), params.draft ?? "", await bodyOf(request)));
