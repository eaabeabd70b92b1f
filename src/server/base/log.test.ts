import { expect, test } from "vitest";
import { bareError } from "./log";

test("a failed query is logged without its parameters", () => {
  const cause = new Error("connection refused");
  const error = new Error("Failed query: select 1 where token = $1\nparams: a secret token,7", { cause });
  const logged = JSON.stringify(bareError(error));
  expect(logged).toContain("select 1 where token");
  expect(logged).toContain("connection refused");
  expect(logged).not.toContain("a secret token");
  expect(bareError("thrown text")).toEqual({ message: "not an error" });
});
