import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { build } from "esbuild";
import { injectManifest } from "workbox-build";
import { ROOT } from "./steps.mjs";

/** Builds the service worker when everything that it keeps has been built, with the list of it inside. */
export const deskWorker = () => ({
  name: "shizuka-desk-worker",
  hooks: {
    "astro:build:done": async ({ dir }) => {
      const folder = fileURLToPath(dir);
      const file = join(folder, "desk-worker.js");
      await build({
        entryPoints: [join(ROOT, "src/workers/desk-worker.ts")],
        outfile: file,
        bundle: true,
        minify: true,
        format: "iife",
        target: "es2022",
        define: { "process.env.NODE_ENV": '"production"' },
        logLevel: "error",
      });
      const { warnings } = await injectManifest({
        swSrc: file,
        swDest: file,
        globDirectory: folder,
        // Of the many files of a font, those of the alphabet that the interface is written in.
        globIgnores: ["assets/password-lists*", "assets/japanese*"],
        globPatterns: ["assets/*.{js,css}", "assets/*-latin-wght-*.woff2", "moon.svg"],
        maximumFileSizeToCacheInBytes: 2_000_000,
      });
      if (warnings.length > 0) throw new Error(warnings.join("\n"));
    },
  },
});
