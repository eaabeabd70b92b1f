import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { recordingOf } from "@/server/desk/media";
import { mediaResponse } from "@/server/edge/media-response";

/** A sound or a film of a question that may be seen. */
export const GET: APIRoute = async ({ params, locals, request }) => {
  const { attempt = "", recording = "" } = params;
  return mediaResponse(request, recording, await recordingOf(signedIn(locals.viewer), attempt, recording));
};
