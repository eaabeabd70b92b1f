import { readdirSync, readFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { pathToFileURL } from "node:url";
import { ROOT } from "./steps.mjs";

/** Every language has a file of its own, which the build of pages finds by itself: here they are written out. */
const languageFiles = {
  name: "language-files",
  setup(build) {
    build.onLoad({ filter: /src\/words\/languages\.ts$/ }, ({ path }) => {
      const names = readdirSync(join(dirname(path), "languages"));
      const found = names.map((name) => `"./languages/${name}": require("./languages/${name}")`).join(", ");
      return {
        loader: "ts",
        contents: readFileSync(path, "utf8").replace(/import\.meta\.glob<[^(]*>\([^)]*\)/, `{ ${found} }`),
      };
    });
  },
};

/** Puts a TypeScript entry and what it imports together into one file that Node runs; returns how to load it. */
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
    plugins: [languageFiles],
  });
}

export const load = (file) => import(pathToFileURL(file).href);
