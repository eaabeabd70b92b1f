import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { draftOfQuiz } from "@/server/drafts/make-draft";

/** Goes to where an assigned quiz is written on. */
export const POST: APIRoute = async ({ params, locals, redirect }) => {
  const { id } = await draftOfQuiz(signedIn(locals.viewer), params.quiz ?? "");
  return redirect(`/drafts/${id}`, 303);
};
