import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { pictureOf } from "@/server/desk/media";
import { mediaResponse } from "@/server/edge/media-response";

/** A picture of a question that may be seen. */
export const GET: APIRoute = async ({ params, locals, request }) => {
  const { attempt = "", picture = "" } = params;
  return mediaResponse(request, picture, await pictureOf(signedIn(locals.viewer), attempt, picture));
};
