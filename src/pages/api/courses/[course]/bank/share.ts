import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { shareBank } from "@/server/bank/change-bank";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";

/** Lets another course take from the bank, or no longer. */
export const POST: APIRoute = async ({ params, locals, request }) => {
  await shareBank(signedIn(locals.viewer), params.course ?? "", await bodyOf(request));
  return json({ done: true });
};
