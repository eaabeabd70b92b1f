import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { allowanceDeed } from "@/server/allowances/allowance-deeds";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";

/** Gives an allowance throughout a course or takes one back, or says what that would do. */
export const POST: APIRoute = async ({ params, locals, request }) => {
  const viewer = signedIn(locals.viewer);
  return json(
    await allowanceDeed(params.deed)(viewer, { course: params.course ?? "" }, await bodyOf(request)),
  );
};
