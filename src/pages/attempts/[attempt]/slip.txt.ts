import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { slipText } from "@/server/handed-in/slip-text";

/** The slip as plain text, to keep: with the digests whole, and how to work them out again. */
export const GET: APIRoute = async ({ params, locals, redirect, request }) => {
  const attempt = params.attempt ?? "";
  const text = await slipText(signedIn(locals.viewer), attempt, `${request.headers.get("host")}/verify`);
  if (text === null) return redirect(`/attempts/${attempt}`, 303);
  return new Response(text.body, {
    headers: {
      "content-type": "text/plain; charset=utf-8",
      "content-disposition": `attachment; filename="slip-${text.code}.txt"`,
    },
  });
};
