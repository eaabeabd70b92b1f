import type { APIRoute } from "astro";
import { turnedPages } from "@/server/attempts/desk-pages";
import { json } from "@/server/json";
import { signedIn } from "@/server/viewer";

/** What is open now, for a desk whose page was turned elsewhere. */
export const GET: APIRoute = async ({ params, locals }) =>
  json(await turnedPages(signedIn(locals.viewer), params.attempt ?? ""));
