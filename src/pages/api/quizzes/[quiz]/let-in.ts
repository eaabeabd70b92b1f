import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { bodyOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { letIn } from "@/server/watch/let-in";

/** An instructor lets a student go on with an attempt that was handed in. */
export const POST: APIRoute = async ({ params, locals, request }) => {
  await letIn(signedIn(locals.viewer), params.quiz ?? "", await bodyOf(request));
  return json({ letIn: true });
};
