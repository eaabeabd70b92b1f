import { fileURLToPath } from "node:url";
import node from "@astrojs/node";
import react from "@astrojs/react";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "astro/config";
import type { Plugin } from "vite";
import { deskWorker } from "./tools/lib/desk-worker.mjs";

/** What has a file of its own in the server build: the starting scripts load the one, a thread the other. */
const ENTRIES = { "main.mjs": "src/main.ts", "thread-tasks.mjs": "src/server/thread-tasks.ts" };

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
    plugins: [tailwindcss(), ownEntries()],
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
