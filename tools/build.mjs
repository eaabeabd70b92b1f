import { readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";
import { main, ROOT, run } from "./lib/steps.mjs";

/** Builds the application into dist/ and compresses what is served from there as it lies. */
await main(async () => {
  const env = {
    ...process.env,
    ASTRO_TELEMETRY_DISABLED: "1",
    ASTRO_DISABLE_UPDATE_CHECK: "true",
    NODE_ENV: "production",
  };
  run("npx", ["astro", "build", "--silent"], { env });
  compress(join(ROOT, "dist/client"));
});

function compress(folder) {
  for (const name of readdirSync(folder)) {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) compress(path);
    else if (/\.(js|css|svg|json|html|txt)$/.test(name)) {
      const content = readFileSync(path);
      writeFileSync(`${path}.gz`, gzipSync(content, { level: 9 }));
      const params = { [constants.BROTLI_PARAM_QUALITY]: 11 };
      writeFileSync(`${path}.br`, brotliCompressSync(content, { params }));
    }
  }
}
