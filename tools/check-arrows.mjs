import { readdirSync, readFileSync } from "node:fs";
import { join, relative, resolve } from "node:path";
import { main, ROOT, run, Stop } from "./lib/steps.mjs";

/** Checks that imports point one way: TypeScript through dependency-cruiser, which does not read .astro files, and those here. */
const arrows = JSON.parse(readFileSync(join(ROOT, "tools/lib/arrows.json"), "utf8"));
/** The order of the rooms within a room; one that is not in it could import anything. */
const rooms = JSON.parse(readFileSync(join(ROOT, "tools/lib/rooms.json"), "utf8"));

await main(async () => {
  run("npx", ["depcruise", "src", "--config", ".dependency-cruiser.cjs", "--output-type", "err"]);
  const wrong = readdirSync(join(ROOT, "src"), { recursive: true })
    .filter((file) => file.endsWith(".astro"))
    .flatMap((file) => wrongImports(join(ROOT, "src", file)));
  if (wrong.length > 0) throw new Stop(`Imports against the arrows:\n${wrong.join("\n")}`);
  const unknown = Object.entries(rooms).flatMap(([house, order]) => {
    const there = readdirSync(join(ROOT, "src", house), { withFileTypes: true })
      .filter((each) => each.isDirectory())
      .map(({ name }) => name);
    return [
      ...there.filter((name) => !order.includes(name)),
      ...order.filter((name) => !there.includes(name)),
    ].map((name) => `  src/${house}/${name}`);
  });
  if (unknown.length > 0)
    throw new Stop(`Rooms that tools/lib/rooms.json and src do not both have:\n${unknown.join("\n")}`);
  console.log("The arrows point one way.");
});

function wrongImports(path) {
  const from = relative(join(ROOT, "src"), path).split("/")[0];
  const imports = readFileSync(path, "utf8").matchAll(/^\s*import\s[^"']*["']([^"']+)["']/gm);
  return [...imports].flatMap(([, target]) => {
    const inside = target.startsWith("@/")
      ? target.slice(2)
      : target.startsWith(".")
        ? relative(join(ROOT, "src"), resolve(path, "..", target))
        : null;
    const to = inside?.split("/")[0];
    return to && !arrows[from]?.includes(to) ? [`  ${relative(ROOT, path)} -> ${target}`] : [];
  });
}
