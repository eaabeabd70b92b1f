import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { deviceKeyOf } from "@/server/attempts/seeds";
import { json } from "@/server/base/json";

/** The key under which a device keeps what its owner left there unsent: the same for each session of the same person. */
export const GET: APIRoute = async ({ locals }) => json(await deviceKeyOf(signedIn(locals.viewer).id));
