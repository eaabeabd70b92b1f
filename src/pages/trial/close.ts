import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { closeTrial, paperOfTrial } from "@/server/trials/close-trial";

/** The quiz that is tried out closes: its paper as students see it then. */
export const POST: APIRoute = async ({ locals, redirect }) => {
  const student = signedIn(locals.viewer);
  await closeTrial(student);
  return redirect(await paperOfTrial(student), 303);
};
