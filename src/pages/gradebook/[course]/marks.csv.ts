import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { gradebookFile } from "@/server/gradebook/gradebook-file";

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
