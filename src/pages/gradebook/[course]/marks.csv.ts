import type { APIRoute } from "astro";
import { gradebookFile } from "@/server/student/gradebook-file";
import { signedIn } from "@/server/viewer";

/** The gradebook to keep, or to open in a program for tables. */
export const GET: APIRoute = async ({ params, locals }) => {
  const slug = params.course ?? "";
  return new Response(await gradebookFile(signedIn(locals.viewer), slug), {
    headers: {
      "content-type": "text/csv; charset=utf-8",
      "content-disposition": `attachment; filename="gradebook-${slug}.csv"`,
    },
  });
};
