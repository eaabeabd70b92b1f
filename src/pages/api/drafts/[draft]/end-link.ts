import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { checkLinksOf, endCheckLink } from "@/server/trials/check-links";

/** Ends a link; answers with those that are left. */
export const POST: APIRoute = async ({ params, locals, request }) => {
  const viewer = signedIn(locals.viewer);
  await endCheckLink(viewer, params.draft ?? "", await bodyOf(request));
  return json(await checkLinksOf(viewer, params.draft ?? ""));
};
