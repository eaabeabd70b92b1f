import { fileURLToPath } from "node:url";
import node from "@astrojs/node";
import react from "@astrojs/react";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "astro/config";
import type { Plugin } from "vite";
import { deskWorker } from "./tools/lib/desk-worker.mjs";

/** Gives `src/main.ts` a file of its own in the server build, so that the starting scripts can load it. */
function mainEntry(): Plugin {
  let forServer = false;
  return {
    name: "shizuka-main-entry",
    apply: "build",
    configResolved(config) {
      forServer = Boolean(config.build.ssr);
    },
    buildStart() {
      if (forServer)
        this.emitFile({
          type: "chunk",
          id: "src/main.ts",
          fileName: "main.mjs",
          preserveSignature: "strict",
        });
    },
  };
}

export default defineConfig({
  output: "server",
  adapter: node({ mode: "middleware" }),
  integrations: [react(), deskWorker()],
  devToolbar: { enabled: false },
  // The origin of every unsafe request is checked in src/middleware.ts, on any port.
  security: { checkOrigin: false },
  experimental: { csp: true },
  build: { inlineStylesheets: "never", assets: "assets" },
  vite: {
    // Workers are bundled apart and do not see the paths of tsconfig.json.
    resolve: { alias: { "@": fileURLToPath(new URL("./src", import.meta.url)) } },
    plugins: [tailwindcss(), mainEntry()],
    // Fonts too small to matter would become data: addresses, which the policy for contents refuses.
    build: { sourcemap: false, assetsInlineLimit: 0 },
  },
});
