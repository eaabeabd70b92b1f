import type { APIRoute } from "astro";
import { fileOf, receivePiece } from "@/server/attempts/uploads";
import { json, tooLarge } from "@/server/json";
import { signedIn } from "@/server/viewer";

/** More than any piece has: what is longer is not read to its end. */
const LONGEST = 2 * 1024 * 1024;
/** Types that a browser shows by itself and that can run nothing in a sandbox. */
const SHOWN = /^(image\/(png|jpeg|gif|webp|avif|bmp|apng)|application\/pdf|text\/plain|audio\/.+|video\/.+)$/;

/** Takes a piece of a file: `?slot=&name=&size=&at=`, its bytes as the body. */
export const PUT: APIRoute = async ({ params, locals, request, url }) => {
  const viewer = signedIn(locals.viewer);
  if (Number(request.headers.get("content-length") ?? 0) > LONGEST) throw tooLarge();
  const bytes = Buffer.from(await request.arrayBuffer());
  const terms = Object.fromEntries(url.searchParams);
  return json(await receivePiece(viewer, params.attempt ?? "", params.file ?? "", terms, bytes));
};

/** A file as it was handed in: shown in a sandbox where a browser can, else (or with `?download`) downloaded. */
export const GET: APIRoute = async ({ params, locals, url }) => {
  const file = await fileOf(signedIn(locals.viewer), params.attempt ?? "", params.file ?? "");
  const shown = SHOWN.test(file.type) && !url.searchParams.has("download");
  const name = encodeURIComponent(file.name).replace(/['()*]/g, (c) => `%${c.charCodeAt(0).toString(16)}`);
  return new Response(new Uint8Array(file.bytes), {
    headers: {
      "content-type": file.type === "text/plain" ? "text/plain; charset=utf-8" : file.type,
      "content-disposition": `${shown ? "inline" : "attachment"}; filename*=UTF-8''${name}`,
      "content-security-policy":
        "sandbox; default-src 'none'; style-src 'unsafe-inline'; img-src 'self'; media-src 'self'",
      "x-content-type-options": "nosniff",
      "cache-control": "private, max-age=3600",
    },
  });
};
