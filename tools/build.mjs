import {
  cpSync,
  existsSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";
import { main, ROOT, run } from "./lib/steps.mjs";

const ASSETS = join(ROOT, "dist/client/assets");
/** Pages of the build before are open for so long at most, in days: until then what they load is served. */
const KEPT_DAYS = 7;

/** Builds the application into dist/ and compresses what is served from there as it lies. */
await main(async () => {
  const env = {
    ...process.env,
    ASTRO_TELEMETRY_DISABLED: "1",
    ASTRO_DISABLE_UPDATE_CHECK: "true",
    NODE_ENV: "production",
  };
  const kept = keepAssets();
  run("npx", ["astro", "build", "--silent"], { env });
  compress(join(ROOT, "dist/client"));
  giveBack(kept);
});

/** Sets aside the files of earlier builds: their names tell their content, so they lie beside those of this one. */
function keepAssets() {
  if (!existsSync(ASSETS)) return null;
  const aside = mkdtempSync(join(tmpdir(), "shizuka-assets-"));
  const oldest = Date.now() - KEPT_DAYS * 24 * 3_600_000;
  for (const name of readdirSync(ASSETS)) {
    const from = join(ASSETS, name);
    if (statSync(from).mtimeMs >= oldest) cpSync(from, join(aside, name), { preserveTimestamps: true });
  }
  return aside;
}

function giveBack(aside) {
  if (!aside) return;
  for (const name of readdirSync(aside)) {
    const to = join(ASSETS, name);
    if (!existsSync(to)) cpSync(join(aside, name), to, { preserveTimestamps: true });
  }
  rmSync(aside, { recursive: true, force: true });
}

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
