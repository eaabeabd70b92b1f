import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { changePlan, lookOverPlan } from "@/server/course-gradebook/change-plan";

/** What counts in a course: looked over, or, with a reason and what was looked at, changed. */
export const POST: APIRoute = async ({ params, locals, request }) => {
  const viewer = signedIn(locals.viewer);
  const input = await bodyOf(request);
  const isMeant = typeof input === "object" && input !== null && "expects" in input;
  return json(await (isMeant ? changePlan : lookOverPlan)(viewer, params.course ?? "", input));
};
