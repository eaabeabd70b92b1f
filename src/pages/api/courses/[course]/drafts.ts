import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { newDraft } from "@/server/drafts/make-draft";

/** Begins a quiz in a course. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await newDraft(signedIn(locals.viewer), params.course ?? "", await bodyOf(request)), 201);
