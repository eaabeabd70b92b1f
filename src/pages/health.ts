import type { APIRoute } from "astro";
import { isHealthy } from "@/server/base/health";

/** Whether this process answers and reaches its database. */
export const GET: APIRoute = async () => {
  const healthy = await isHealthy();
  return new Response(healthy ? "ok\n" : "no database\n", { status: healthy ? 200 : 503 });
};
