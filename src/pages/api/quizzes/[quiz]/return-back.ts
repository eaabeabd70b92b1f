import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { takeBackReturn } from "@/server/marking/return-work";

/** Takes a return back, with a reason. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await takeBackReturn(signedIn(locals.viewer), params.quiz ?? "", await bodyOf(request)));
