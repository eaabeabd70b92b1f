import type { APIRoute } from "astro";
import { now } from "@/server/clock";
import { json } from "@/server/json";

/** The server's time, for measuring how far off a device's clock is. */
export const GET: APIRoute = () => json({ serverNow: now() });
