import { expect, test } from "vitest";
import { matched } from "./matched";

test("a target that can be used once moves from the prompt that had it; one that can be used often stays", () => {
  const pairs = { a: "x", b: "y" };
  expect(matched({ once: true }, pairs, "b", "x")).toEqual({ pairs: { b: "x" } });
  expect(matched({ once: false }, pairs, "b", "x")).toEqual({ pairs: { a: "x", b: "x" } });
});

test("a prompt can be left without a target again, and with none at all there is no answer", () => {
  expect(matched({ once: true }, { a: "x", b: "y" }, "a", null)).toEqual({ pairs: { b: "y" } });
  expect(matched({ once: true }, { a: "x" }, "a", null)).toBeNull();
});
