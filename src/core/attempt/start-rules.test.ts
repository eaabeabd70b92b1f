import { expect, test } from "vitest";
import { HOUR } from "../time/instants";
import { rulingOnStart } from "./start-rules";

const noon = Date.parse("2026-11-25T12:00:00Z");
const terms = {
  window: { opens: noon - HOUR, due: noon + HOUR, closes: noon + 2 * HOUR },
  now: noon,
  zone: "Europe/London",
  allowed: 2,
  used: 0,
  running: null,
};

test("an open quiz with attempts left may be started", () => {
  expect(rulingOnStart(terms)).toEqual({ may: "start", number: 1 });
  expect(rulingOnStart({ ...terms, used: 1 })).toEqual({ may: "start", number: 2 });
  expect(rulingOnStart({ ...terms, allowed: null, used: 99 })).toEqual({ may: "start", number: 100 });
});

test("a running attempt is resumed, even after closing", () => {
  const ruling = rulingOnStart({ ...terms, running: "one", now: noon + 3 * HOUR });
  expect(ruling).toEqual({ may: "resume", attempt: "one" });
});

test("every refusal says which rule, and from when it would allow it", () => {
  const early = rulingOnStart({ ...terms, now: noon - 2 * HOUR });
  expect(early).toMatchObject({ may: "not", refusal: { rule: "not-open-yet", from: noon - HOUR } });
  const late = rulingOnStart({ ...terms, now: noon + 2 * HOUR });
  expect(late).toMatchObject({ may: "not", refusal: { rule: "closed", from: null } });
  const used = rulingOnStart({ ...terms, used: 2 });
  expect(used).toMatchObject({
    may: "not",
    refusal: { rule: "no-attempts-left", words: "You have used all 2 attempts of this quiz." },
  });
});
