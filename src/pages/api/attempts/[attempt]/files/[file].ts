import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { spend } from "@/server/base/budgets";
import { json } from "@/server/base/json";
import { receivePiece } from "@/server/desk/uploads";

/** Takes a piece of a file: `?slot=&name=&size=&at=`, its bytes as the body. It is given by a lane of its own, in a stream. */
export const PUT: APIRoute = async ({ params, locals, request, url }) => {
  const viewer = signedIn(locals.viewer);
  const bytes = Buffer.from(await request.arrayBuffer());
  await spend("bytes", viewer.id, Math.max(1, bytes.length));
  const terms = Object.fromEntries(url.searchParams);
  return json(await receivePiece(viewer, params.attempt ?? "", params.file ?? "", terms, bytes));
};
