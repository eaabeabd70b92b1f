import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { changeRemarks } from "@/server/marking/remarks";

/** Keeps a remark, notes that one was used, or takes one away. */
export const POST: APIRoute = async ({ params, locals, request }) =>
  json(await changeRemarks(signedIn(locals.viewer), params.quiz ?? "", await bodyOf(request)));
