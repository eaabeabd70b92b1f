import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { main, ROOT, Stop } from "./lib/steps.mjs";

/** Checks that the files and folders that the documents name are there: `server/base/clock.ts`, `core/reveal`. */
const listed = execFileSync("git", ["ls-files", "-co", "--exclude-standard"], { cwd: ROOT, encoding: "utf8" })
  .split("\n")
  .filter(Boolean);
/** Decisions tell of the time at which they were made. */
const documents = listed.filter((file) => /^(README|docs\/[^/]+)\.md$/.test(file));
const isThere = (path) =>
  listed.some(
    (file) => `/${file}`.endsWith(`/${path}`) || `/${file}`.includes(`/${path.replace(/\/$/, "")}/`),
  );

await main(() => {
  const missing = documents.flatMap((file) => {
    const text = readFileSync(join(ROOT, file), "utf8");
    return [...text.matchAll(/`([\w.[\]-]+(?:\/[\w.[\]-]+)+\/?)`/g)]
      .map(([, path]) => path)
      .filter((path) =>
        /^(src|core|words|data|server|islands|ui|pages|workers|cli|demo|serve|tools|tests|docs)\//.test(path),
      )
      .filter((path) => !isThere(path))
      .map((path) => `  ${file}: ${path}`);
  });
  if (missing.length > 0) throw new Stop(`The documents name what is not there:\n${missing.join("\n")}`);
  console.log("What the documents name is there.");
});
