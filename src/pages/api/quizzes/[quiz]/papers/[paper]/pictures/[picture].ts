import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { mediaResponse } from "@/server/edge/media-response";
import { numberIn } from "@/server/marking/room";
import { mediumOfRoom } from "@/server/marking/room-files";

/** A picture of a paper's questions, in the marking room. */
export const GET: APIRoute = async ({ params, locals, request }) => {
  const { quiz = "", paper, picture = "" } = params;
  const viewer = signedIn(locals.viewer);
  return mediaResponse(
    request,
    picture,
    await mediumOfRoom(viewer, quiz, numberIn(paper), "pictures", picture),
  );
};
