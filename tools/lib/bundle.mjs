import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { ROOT } from "./steps.mjs";

/** Puts a TypeScript entry and what it imports together into one file that Node runs; answers how to load it. */
export async function bundle(outfile, entry) {
  const { build } = await import("esbuild");
  await build({
    ...entry,
    outfile,
    bundle: true,
    platform: "node",
    format: "esm",
    target: "node20",
    tsconfig: join(ROOT, "tsconfig.json"),
    logLevel: "error",
  });
}

export const load = (file) => import(pathToFileURL(file).href);
