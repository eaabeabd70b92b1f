import type { APIRoute } from "astro";
import { deviceKeyOf } from "@/server/attempts/seeds";
import { json } from "@/server/json";
import { signedIn } from "@/server/viewer";

/** The key under which a device keeps what its owner left there unsent: the same for each session of the same person. */
export const GET: APIRoute = async ({ locals }) => json(await deviceKeyOf(signedIn(locals.viewer).id));
