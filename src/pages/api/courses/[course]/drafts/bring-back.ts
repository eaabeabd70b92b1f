import type { APIRoute } from "astro";
import * as yup from "yup";
import { exactObject } from "@/core/kinds/shapes";
import { signedIn } from "@/server/access/viewer";
import { bodyOf, inputOf } from "@/server/base/input";
import { json } from "@/server/base/json";
import { bringDraftBack } from "@/server/drafts/put-away";

const body = exactObject({ draft: yup.string().strict().required() });

/** Brings a draft back that was put away. */
export const POST: APIRoute = async ({ params, locals, request }) => {
  const { draft } = inputOf(body, await bodyOf(request));
  await bringDraftBack(signedIn(locals.viewer), params.course ?? "", draft);
  return json({ done: true });
};
