import { startCluster } from "./postgres.mjs";
import { createDatabase, createDemoTemplate, startServer } from "./server.mjs";
import { ensureBuild, ensurePackages } from "./steps.mjs";

/** The built application on the demo college, with a database as safe as in use, for as long as the work takes. */
export async function onBench(work, env = {}) {
  await ensurePackages();
  await ensureBuild();
  const cluster = await startCluster("bench", { fresh: true });
  await createDemoTemplate(cluster);
  const databaseUrl = await createDatabase(cluster, "bench", "demo_template");
  // One person asks more than any person may.
  const server = await startServer(databaseUrl, { SHIZUKA_BUDGET: "1000", ...env });
  try {
    await work({ url: server.url, databaseUrl });
  } finally {
    await server.stop();
    cluster.stop("immediate");
  }
}
