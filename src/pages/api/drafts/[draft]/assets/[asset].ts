import type { APIRoute } from "astro";
import { HOUR } from "@/core/time/instants";
import { signedIn } from "@/server/access/viewer";
import { now } from "@/server/base/clock";
import { assetOf } from "@/server/drafts/assets";
import { mediaResponse } from "@/server/edge/media-response";

/** A picture, a sound or a film of a draft. Its bytes never change. */
export const GET: APIRoute = async ({ params, locals, request }) => {
  const sent = await assetOf(signedIn(locals.viewer), params.draft ?? "", params.asset ?? "");
  return mediaResponse(request, params.asset ?? "", { ...sent, lastsUntil: now() + HOUR });
};
