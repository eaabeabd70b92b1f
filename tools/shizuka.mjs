#!/usr/bin/env node
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { ensurePackages, fingerprint, HOME, ROOT, unlessDone } from "./lib/steps.mjs";

/** `npx shizuka`: the command line over the core, put together anew when its source has changed. */
await ensurePackages();
const bundle = join(HOME, "cli/shizuka.mjs");
await unlessDone(
  join(HOME, "cli/stamp"),
  fingerprint(["src/cli", "src/core", "package-lock.json"]),
  async () => {
    const { build } = await import("esbuild");
    await build({
      entryPoints: [join(ROOT, "src/cli/shizuka.ts")],
      outfile: bundle,
      bundle: true,
      platform: "node",
      format: "esm",
      target: "node20",
      tsconfig: join(ROOT, "tsconfig.json"),
      logLevel: "error",
    });
  },
);
const { run } = await import(pathToFileURL(bundle).href);
process.exitCode = run(process.argv.slice(2), console.log, console.error);
