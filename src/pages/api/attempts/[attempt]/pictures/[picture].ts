import type { APIRoute } from "astro";
import { pictureOf } from "@/server/attempts/pictures";
import { signedIn } from "@/server/viewer";

/** A picture of a question that is open. It never changes within an attempt. */
export const GET: APIRoute = async ({ params, locals }) => {
  const { type, bytes } = await pictureOf(
    signedIn(locals.viewer),
    params.attempt ?? "",
    params.picture ?? "",
  );
  return new Response(new Uint8Array(bytes), {
    headers: {
      "content-type": type,
      "content-security-policy": "sandbox; default-src 'none'; style-src 'unsafe-inline'",
      "cache-control": "private, max-age=86400, immutable",
    },
  });
};
