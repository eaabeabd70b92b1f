import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { endAttempts } from "@/server/watch/end-attempts";

/** An instructor ends running attempts. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await endAttempts(signedIn(locals.viewer), params.quiz ?? "", await bodyOf(request)));
