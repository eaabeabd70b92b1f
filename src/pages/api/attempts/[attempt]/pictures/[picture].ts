import type { APIRoute } from "astro";
import { SECOND } from "@/core/time/instants";
import { signedIn } from "@/server/access/viewer";
import { now } from "@/server/base/clock";
import { pictureOf } from "@/server/desk/pictures";

/** A desk goes on without a network for so long at the most, in seconds. */
const LONGEST = 24 * 3_600;

/**
 * A picture of a question that may be seen. It never changes within an attempt, so its name is its mark. A running desk
 * keeps it until the end; else whoever asks on the same machine may be somebody else, so each use is asked for.
 */
export const GET: APIRoute = async ({ params, locals, request }) => {
  const { type, bytes, lastsUntil } = await pictureOf(
    signedIn(locals.viewer),
    params.attempt ?? "",
    params.picture ?? "",
  );
  const etag = `"${params.picture}"`;
  const isKnown = request.headers.get("if-none-match") === etag;
  const seconds = lastsUntil === null ? 0 : Math.floor((lastsUntil - now()) / SECOND);
  return new Response(isKnown ? null : new Uint8Array(bytes), {
    status: isKnown ? 304 : 200,
    headers: {
      etag,
      "content-type": type,
      "content-security-policy": "sandbox; default-src 'none'; style-src 'unsafe-inline'",
      "cache-control": seconds > 0 ? `private, max-age=${Math.min(seconds, LONGEST)}` : "private, no-cache",
    },
  });
};
