#!/usr/bin/env node
import { join } from "node:path";
import { bundle, load } from "./lib/bundle.mjs";
import { ensurePackages, fingerprint, HOME, ROOT, unlessDone } from "./lib/steps.mjs";

/** `npx shizuka`: the command line over the core, put together anew when its source has changed. */
await ensurePackages();
const program = join(HOME, "cli/shizuka.mjs");
await unlessDone(
  join(HOME, "cli/stamp"),
  fingerprint(["src/cli", "src/core", "src/words", "package-lock.json"]),
  () => bundle(program, { entryPoints: [join(ROOT, "src/cli/shizuka.ts")] }),
);
const { run } = await load(program);
process.exitCode = run(process.argv.slice(2), console.log, console.error);
