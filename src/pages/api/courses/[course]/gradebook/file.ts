import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { formOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { badInput } from "@/server/base/problems";
import { bringMarksIn, lookOverMarks } from "@/server/course-gradebook/marks-file-in";
import { t } from "@/words/t";

/** A table of marks: looked over, or, with a reason and what was looked at, brought in. */
export const POST: APIRoute = async ({ params, locals, request }) => {
  const viewer = signedIn(locals.viewer);
  const form = await formOf(request);
  const file = form.get("file");
  if (!(file instanceof File)) throw badInput(t("server.course-gradebook.marks-file-in.choose-a-file"));
  const bytes = new Uint8Array(await file.arrayBuffer());
  const course = params.course ?? "";
  if (!form.has("expects")) return json(await lookOverMarks(viewer, course, bytes));
  const terms = { reason: form.get("reason") ?? undefined, expects: form.get("expects") ?? undefined };
  return json(await bringMarksIn(viewer, course, bytes, terms));
};
