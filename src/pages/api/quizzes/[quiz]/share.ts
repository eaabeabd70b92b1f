import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { sharePile } from "@/server/marking/share-pile";

/** Shares the papers that await marking out among markers. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await sharePile(signedIn(locals.viewer), params.quiz ?? "", await bodyOf(request)));
