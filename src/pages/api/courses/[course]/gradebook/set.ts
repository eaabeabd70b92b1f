import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { setMarks } from "@/server/course-gradebook/set-marks";

/** An instructor sets marks, excuses, or lets the work itself count again. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await setMarks(signedIn(locals.viewer), params.course ?? "", await bodyOf(request)));
