import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { numberIn } from "@/server/marking/room";
import { saveMarking } from "@/server/marking/save-marking";

/** Saves what a marker writes, as it is written. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(
    await saveMarking(
      signedIn(locals.viewer),
      params.quiz ?? "",
      numberIn(params.paper),
      await bodyOf(request),
    ),
  );
