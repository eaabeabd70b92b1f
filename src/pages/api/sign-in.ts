import type { APIRoute } from "astro";
import { bodyOf, inputOf } from "@/server/input";
import { json } from "@/server/json";
import { signIn, signInForm } from "@/server/sign-in";

/** Signs in without leaving the page: for a desk whose session has ended. */
export const POST: APIRoute = async ({ request, locals }) => {
  const { email, password } = inputOf(signInForm, await bodyOf(request));
  const cookies = await signIn({ email, password, address: locals.address, headers: request.headers });
  const response = json({ signedIn: true });
  for (const cookie of cookies) response.headers.append("set-cookie", cookie);
  return response;
};
