import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, test } from "vitest";
import { exact } from "./numbers/exact";
import { said } from "./said";

/** The modules of the core, loaded as they are needed. */
const modules = import.meta.glob<Record<string, unknown>>(["./**/*.ts", "!./**/*.test.ts"]);

/** Each example of a doc comment: what is asked, and what comes of it; what is said stands as an English reader gets it. */
const examples = readdirSync(import.meta.dirname, { recursive: true, encoding: "utf8" })
  .filter((file) => file.endsWith(".ts") && !file.endsWith(".test.ts"))
  .sort()
  .flatMap((file) =>
    [
      ...readFileSync(join(import.meta.dirname, file), "utf8").matchAll(
        /@example (.+?) → (.+?)(?: \*\/)?$/gm,
      ),
    ].map(([, asked = "", expected = ""]) => ({ file, asked, expected })),
  );

const resultOf = (expression: string, scope: Readonly<Record<string, unknown>>): unknown =>
  new Function(...Object.keys(scope), `return (${expression});`)(...Object.values(scope));

describe("the examples of the core's doc comments", () => {
  test("there are some, in every room", () => {
    const rooms = new Set(examples.map(({ file }) => (file.includes("/") ? file.split("/")[0] : "")));
    expect(examples.length).toBeGreaterThanOrEqual(140);
    expect([...rooms].sort()).toEqual(
      expect.arrayContaining([
        "",
        "attempt",
        "gradebook",
        "journal",
        "kinds",
        "marking",
        "numbers",
        "text",
        "time",
      ]),
    );
  });

  test.each(examples)("$file: $asked", async ({ file, asked, expected }) => {
    const scope = { exact, said, ...(await modules[`./${file}`]?.()) };
    expect(resultOf(asked, scope)).toEqual(resultOf(expected, scope));
  });
});
