import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { pileOf } from "@/server/marking/pile";
import { changePileView } from "@/server/marking/share-pile";

/** The pile of a quiz, as it is now. */
export const GET: APIRoute = async ({ params, locals }) =>
  json(await pileOf(signedIn(locals.viewer), params.quiz ?? ""));

/** How somebody wants to see it: names, and in which order. Answers with the pile as it is then. */
export const POST: APIRoute = async ({ params, locals, request }) => {
  const viewer = signedIn(locals.viewer);
  await changePileView(viewer, params.quiz ?? "", await bodyOf(request));
  return json(await pileOf(viewer, params.quiz ?? ""));
};
