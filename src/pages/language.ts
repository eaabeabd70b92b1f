import type { APIRoute } from "astro";
import { fieldsOf } from "@/server/base/input";
import { ownPath } from "@/server/base/own-path";
import { chooseLanguage } from "@/server/profile/choose-language";

/** Chooses the language of the interface, and goes back to where that was asked for. */
export const POST: APIRoute = async ({ request, locals }) => {
  const fields = await fieldsOf(request);
  const cookie = await chooseLanguage(locals.viewer, fields);
  return new Response(null, {
    status: 303,
    headers: { location: ownPath(fields.after ?? ""), "set-cookie": cookie },
  });
};
