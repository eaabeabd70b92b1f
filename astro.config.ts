import { fileURLToPath } from "node:url";
import node from "@astrojs/node";
import react from "@astrojs/react";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "astro/config";
import type { Plugin } from "vite";
import { deskWorker } from "./tools/lib/desk-worker.mjs";

/** What has a file of its own in the server build: the server itself, and a thread for work that may take long. */
const ENTRIES = { "serve.mjs": "src/serve/serve.ts", "thread-tasks.mjs": "src/server/text/thread-tasks.ts" };

function ownEntries(): Plugin {
  let forServer = false;
  return {
    name: "shizuka-own-entries",
    apply: "build",
    configResolved(config) {
      forServer = Boolean(config.build.ssr);
    },
    buildStart() {
      if (!forServer) return;
      for (const [fileName, id] of Object.entries(ENTRIES)) {
        this.emitFile({ type: "chunk", id, fileName, preserveSignature: "strict" });
      }
    },
  };
}

/**
 * Fonts that come late are taken on the next page: swapped in, they would move what is being read. Those of formulas stay
 * as they are, as no other has their signs.
 */
function fontsNeverSwap(): Plugin {
  return {
    name: "shizuka-fonts-never-swap",
    apply: "build",
    enforce: "post",
    generateBundle: {
      order: "post",
      handler(_, bundle) {
        for (const file of Object.values(bundle)) {
          // Those of Japanese are as wide as any other of its signs, and a device may have none: they move nothing.
          if (file.type === "asset" && file.fileName.endsWith(".css") && !/japanese/.test(file.fileName)) {
            file.source = String(file.source).replaceAll(/font-display:\s*swap/g, "font-display:optional");
          }
        }
      },
    },
  };
}

export default defineConfig({
  output: "server",
  adapter: node({ mode: "middleware" }),
  integrations: [react(), deskWorker()],
  devToolbar: { enabled: false },
  // Nothing is made from pictures on demand: the framework's way to that is not there.
  image: { service: { entrypoint: "astro/assets/services/noop" } },
  // The origin of every unsafe request is checked in src/middleware.ts, on any port.
  security: { checkOrigin: false },
  experimental: { csp: true },
  build: { inlineStylesheets: "never", assets: "assets" },
  vite: {
    // Workers are bundled apart and do not see the paths of tsconfig.json.
    resolve: { alias: { "@": fileURLToPath(new URL("./src", import.meta.url)) } },
    plugins: [tailwindcss(), ownEntries(), fontsNeverSwap()],
    // Fonts too small to matter would become data: addresses, which the policy for contents refuses.
    build: {
      sourcemap: false,
      assetsInlineLimit: 0,
      // The lists of common passwords are large and wanted on one page alone: the worker that keeps the desk leaves them out.
      rollupOptions: {
        output: { manualChunks: (id) => (id.includes("/@zxcvbn-ts/") ? "password-lists" : undefined) },
      },
    },
  },
});
