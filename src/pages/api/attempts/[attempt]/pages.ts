import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { json } from "@/server/base/json";
import { turnedPages } from "@/server/desk/desk-pages";

/** What is open now, for a desk whose page was turned elsewhere. */
export const GET: APIRoute = async ({ params, locals }) =>
  json(await turnedPages(signedIn(locals.viewer), params.attempt ?? ""));
