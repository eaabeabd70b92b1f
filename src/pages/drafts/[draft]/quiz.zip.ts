import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { quizArchive } from "@/server/drafts/take-out-quiz";

/** A draft as an archive with everything that it shows and plays. */
export const GET: APIRoute = async ({ params, locals }) => {
  const { name, body } = await quizArchive(signedIn(locals.viewer), params.draft ?? "");
  return new Response(body, {
    headers: {
      "content-type": "application/zip",
      "content-disposition": `attachment; filename="${name}"`,
      "cache-control": "private, no-store",
    },
  });
};
