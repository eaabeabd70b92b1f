import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { changeMarking, reMarkingsOf } from "@/server/marking/re-marking";

/** How the re-markings of a quiz go. */
export const GET: APIRoute = async ({ params, locals }) =>
  json(await reMarkingsOf(signedIn(locals.viewer), params.quiz ?? ""));

/** Shows what a change of a question's marking would do; said again with what was shown, it is begun. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await changeMarking(signedIn(locals.viewer), params.quiz ?? "", await bodyOf(request)));
