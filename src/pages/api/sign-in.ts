import type { APIRoute } from "astro";
import { bodyOf, inputOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { Problem } from "@/server/base/problems";
import { signIn, signInForm } from "@/server/sign-in/sign-in";
import { t } from "@/words/t";

/** Signs in without leaving the page: for a desk whose session has ended. */
export const POST: APIRoute = async ({ request, locals }) => {
  const fields = inputOf(signInForm, await bodyOf(request));
  const { cookies, asksForCode } = await signIn(fields, {
    address: locals.address,
    headers: request.headers,
  });
  if (asksForCode) {
    throw new Problem(403, "asks-for-code", t("pages.api.sign-in.your-account-asks-for-a-code"));
  }
  const response = json({ signedIn: true });
  for (const cookie of cookies) response.headers.append("set-cookie", cookie);
  return response;
};
