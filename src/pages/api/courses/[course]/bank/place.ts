import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { placeInBank } from "@/server/bank/change-bank";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";

/** Says anew where a question of the bank stands. */
export const POST: APIRoute = async ({ params, locals, request }) => {
  await placeInBank(signedIn(locals.viewer), params.course ?? "", await bodyOf(request));
  return json({ done: true });
};
