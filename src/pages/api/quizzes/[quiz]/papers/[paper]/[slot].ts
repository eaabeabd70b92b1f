import type { APIRoute } from "astro";
import { validate as isUuid } from "uuid";
import { signedIn } from "@/server/access/viewer";
import { json } from "@/server/base/json";
import { answerOf } from "@/server/marking/answer-view";
import { numberIn } from "@/server/marking/room";

/** An answer of the pile, with all that is needed to mark it. */
export const GET: APIRoute = async ({ params, locals, url }) => {
  const device = url.searchParams.get("device");
  return json(
    await answerOf(
      signedIn(locals.viewer),
      params.quiz ?? "",
      numberIn(params.paper),
      numberIn(params.slot),
      device !== null && isUuid(device) ? device : null,
    ),
  );
};
