import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { writePlan } from "@/server/course/write-plan";

/** Keeps the plan of a course. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await writePlan(signedIn(locals.viewer), params.course ?? "", await bodyOf(request)));
