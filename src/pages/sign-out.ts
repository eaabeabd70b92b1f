import type { APIRoute } from "astro";
import { signOut } from "@/server/sign-in";

export const POST: APIRoute = async ({ request }) => {
  const headers = new Headers({ location: "/sign-in" });
  for (const cookie of await signOut(request.headers)) headers.append("set-cookie", cookie);
  return new Response(null, { status: 303, headers });
};
