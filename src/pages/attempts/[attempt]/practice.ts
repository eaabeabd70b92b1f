import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { startPractice } from "@/server/practice/practise";

/** Begins to practise what was missed; a form's target, so that it works without script. */
export const POST: APIRoute = async ({ params, locals, redirect }) =>
  redirect(`/practice/${await startPractice(signedIn(locals.viewer), params.attempt ?? "")}`, 303);
