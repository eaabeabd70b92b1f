import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { takeDown } from "@/server/course/announce";

/** Takes an announcement off Today. */
export const POST: APIRoute = async ({ params, locals, request }) => {
  await takeDown(signedIn(locals.viewer), params.course ?? "", await bodyOf(request));
  return json({ taken: true });
};
