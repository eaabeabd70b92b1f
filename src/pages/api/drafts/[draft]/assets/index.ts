import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { json } from "@/server/base/json";
import { addAsset } from "@/server/drafts/assets";

/** Keeps a picture, a sound or a film that an author brings to a draft. */
export const POST: APIRoute = async ({ params, locals, request }) => {
  const viewer = signedIn(locals.viewer);
  return json(await addAsset(viewer, params.draft ?? "", Buffer.from(await request.arrayBuffer())));
};
