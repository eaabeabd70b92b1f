import type { APIRoute } from "astro";
import { calendarOf } from "@/server/profile/calendar";

/** A person's calendar, for the calendar programs that ask for it without signing in. */
export const GET: APIRoute = async ({ params }) =>
  new Response(await calendarOf(params.key ?? ""), {
    headers: {
      "content-type": "text/calendar; charset=utf-8",
      "content-disposition": `inline; filename="quizzes.ics"`,
    },
  });
