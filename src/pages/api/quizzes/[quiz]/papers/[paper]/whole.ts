import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { json } from "@/server/base/json";
import { numberIn } from "@/server/marking/room";
import { wholeOfPaper } from "@/server/marking/save-marking";

/** What a marker wrote to a paper as a whole. */
export const GET: APIRoute = async ({ params, locals }) =>
  json(await wholeOfPaper(signedIn(locals.viewer), params.quiz ?? "", numberIn(params.paper)));
