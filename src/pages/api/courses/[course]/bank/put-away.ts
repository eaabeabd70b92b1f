import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { putAwayInBank } from "@/server/bank/change-bank";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";

/** Puts a question of the bank away. */
export const POST: APIRoute = async ({ params, locals, request }) => {
  await putAwayInBank(signedIn(locals.viewer), params.course ?? "", await bodyOf(request));
  return json({ done: true });
};
