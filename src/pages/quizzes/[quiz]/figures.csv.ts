import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { choiceIn } from "@/server/figures/figures-choice";
import { figuresFile } from "@/server/figures/figures-file";

/** The figures of a quiz's questions, to keep, or to open in a program for tables. */
export const GET: APIRoute = async ({ params, url, locals }) =>
  new Response(await figuresFile(signedIn(locals.viewer), params.quiz ?? "", choiceIn(url.searchParams)), {
    headers: {
      "content-type": "text/csv; charset=utf-8",
      "content-disposition": 'attachment; filename="questions.csv"',
    },
  });
