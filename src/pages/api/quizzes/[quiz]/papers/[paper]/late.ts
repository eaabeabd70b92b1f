import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { decideLate } from "@/server/marking/late-decisions";
import { numberIn } from "@/server/marking/room";

/** Takes what came late, or leaves it, with a reason. */
export const POST: APIRoute = async ({ params, locals, request }) => {
  await decideLate(signedIn(locals.viewer), params.quiz ?? "", numberIn(params.paper), await bodyOf(request));
  return json({});
};
