import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { claimAnswer } from "@/server/marking/claims";
import { numberIn } from "@/server/marking/room";

/** Says that this page has an answer open, takes it over, or leaves it. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(
    await claimAnswer(
      signedIn(locals.viewer),
      params.quiz ?? "",
      numberIn(params.paper),
      await bodyOf(request),
    ),
  );
