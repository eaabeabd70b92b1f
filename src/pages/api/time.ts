import type { APIRoute } from "astro";
import { now } from "@/server/base/clock";
import { json } from "@/server/base/json";

/** The server's time, for measuring how far off a device's clock is. */
export const GET: APIRoute = () => json({ serverNow: now() });
