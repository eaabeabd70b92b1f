import type { APIRoute } from "astro";
import { bodyOf, inputOf } from "@/server/input";
import { json } from "@/server/json";
import { signIn, signInAddress, signInForm } from "@/server/sign-in";

/** Signs in without leaving the page: for a desk whose session has ended. */
export const POST: APIRoute = async ({ request, clientAddress }) => {
  const { email, password } = inputOf(signInForm, await bodyOf(request));
  const address = signInAddress(request.headers, clientAddress);
  const cookies = await signIn({ email, password, address, headers: request.headers });
  const response = json({ signedIn: true });
  for (const cookie of cookies) response.headers.append("set-cookie", cookie);
  return response;
};
