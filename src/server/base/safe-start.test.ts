import { expect, test } from "vitest";
import { unsafeSettings } from "./safe-start";

const SECRET = "3f9c0d1e8b7a6f5e4d3c2b1a09f8e7d6";
const safe = { SHIZUKA_SECRET: SECRET };

test("an installation with a secret of its own starts", () => {
  expect(unsafeSettings(safe)).toEqual([]);
  expect(unsafeSettings({ ...safe, HOST: "0.0.0.0" })).toEqual([]);
  expect(unsafeSettings({ ...safe, SHIZUKA_DEMO: "1" })).toEqual([]);
  expect(unsafeSettings({ ...safe, SHIZUKA_LANGUAGE: "ja" })).toEqual([]);
  expect(unsafeSettings({ ...safe, SHIZUKA_LANGUAGE: "" })).toEqual([]);
  expect(unsafeSettings({ ...safe, SHIZUKA_DEMO: "1", HOST: "127.0.0.9" })).toEqual([]);
});

test.each([
  ["no secret", {}, "32 random characters"],
  ["a short secret", { SHIZUKA_SECRET: "short" }, "32 random characters"],
  ["a secret that is no secret", { SHIZUKA_SECRET: "a".repeat(40) }, "32 random characters"],
  ["the demo for everyone", { ...safe, SHIZUKA_DEMO: "1", HOST: "0.0.0.0" }, "known to everyone"],
  ["the demo in the house", { ...safe, SHIZUKA_DEMO: "1", HOST: "192.168.1.4" }, "known to everyone"],
  ["the demo by a name", { ...safe, SHIZUKA_DEMO: "1", HOST: "quiz.alderquay.example" }, "known to everyone"],
  ["a moved clock", { ...safe, SHIZUKA_CLOCK_SHIFT_MS: "1000" }, "for tests alone"],
  ["a language that is not there", { ...safe, SHIZUKA_LANGUAGE: "jp" }, "one of en, ja"],
  ["an idle end that is no number", { ...safe, SHIZUKA_IDLE_HOURS: "soon" }, "SHIZUKA_IDLE_HOURS"],
])("%s does not start, and what would be right is said", (_, env, words) => {
  const problems = unsafeSettings(env);
  expect(problems).toHaveLength(1);
  expect(problems[0]).toContain(words);
});

test("the demo is shown to others, and the clock moved, where that is said expressly", () => {
  const env = { ...safe, SHIZUKA_DEMO: "1", HOST: "0.0.0.0", SHIZUKA_DEMO_ANYWHERE: "1" };
  expect(unsafeSettings(env)).toEqual([]);
  expect(unsafeSettings({ ...safe, SHIZUKA_CLOCK_SHIFT_MS: "5", SHIZUKA_TEST: "1" })).toEqual([]);
});
