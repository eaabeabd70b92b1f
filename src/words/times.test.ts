import { describe, expect, test } from "vitest";
import { DAY, HOUR, MINUTE, SECOND } from "@/core/time/instants";
import { clockDigits, endTime, lengthInWords, nearDay, spokenLength, timeTaken } from "./times";

const ZONE = "Europe/London";
const noon = Date.UTC(2026, 10, 25, 12, 0, 0);

test.each([
  [12 * MINUTE + 38 * SECOND, "12:38"],
  [12 * MINUTE + 37.2 * SECOND, "12:38"],
  [HOUR + 2 * MINUTE + 3 * SECOND, "1:02:03"],
  [DAY, "24:00:00"],
  [5 * DAY + 15 * HOUR + 20 * MINUTE, "5 d 15 h"],
  [0, "0:00"],
  [-SECOND, "0:00"],
])("%d ms left show as %s", (left, words) => {
  expect(clockDigits(left)).toEqual(words);
});

describe("when something ends", () => {
  test("soon: to the second", () => {
    expect(endTime(noon + 20 * MINUTE + 7 * SECOND, noon, ZONE)).toEqual("12:20:07");
  });

  test("half a day away and more: with its day", () => {
    expect(endTime(noon + 13 * HOUR, noon, ZONE)).toEqual("Thu 26 Nov, 01:00");
  });

  test("across the change of the clocks the zone's own time is said", () => {
    const evening = Date.UTC(2026, 9, 24, 22, 0, 0);
    expect(endTime(evening + 4 * HOUR, evening, ZONE)).toEqual("02:00:00");
  });
});

test("days near by have a name", () => {
  expect(nearDay(noon + HOUR, noon, ZONE)).toEqual("today 13:00");
  expect(nearDay(noon + 20 * HOUR, noon, ZONE)).toEqual("tomorrow 08:00");
  expect(nearDay(noon - 20 * HOUR, noon, ZONE)).toEqual("yesterday 16:00");
  expect(nearDay(noon + 5 * DAY, noon, ZONE)).toEqual("Mon 30 Nov, 12:00");
});

test("lengths in words", () => {
  expect(lengthInWords(2 * HOUR + 10 * MINUTE)).toEqual("2 h 10 min");
  expect(lengthInWords(45 * SECOND)).toEqual("45 s");
  expect(timeTaken(18 * MINUTE + 4 * SECOND)).toEqual("18 min 4 s");
  expect(timeTaken(0)).toEqual("0 s");
  expect(spokenLength(90 * SECOND)).toEqual("1 minute 30 seconds");
  expect(spokenLength(20 * SECOND)).toEqual("20 seconds");
});
