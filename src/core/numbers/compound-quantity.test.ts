import fc from "fast-check";
import { expect, test } from "vitest";
import { readNumber } from "./read-number";

const read = (text: string) => {
  const reading = readNumber(text);
  return reading.ok ? `${reading.plain} ${reading.unit ?? ""}, ${reading.figures}` : "unreadable";
};

test.each([
  ["3 h 6 min", "186 min, 3"],
  ["3h06", "186 min, 3"],
  ["3 hours 6 minutes", "186 min, 3"],
  ["1 h 45 m", "105 min, 3"],
  ["-1 h 30 min", "-90 min, 2"],
  ["52° 30.5′", "3150.5 ′, 5"],
  ["1 kg 250 g", "1250 g, 4"],
  ["5 ft 6 in", "66 in, 2"],
  ["1 h 30 s", "3630 s, 4"],
])("%s is one quantity: %s", (text, words) => expect(read(text)).toEqual(words));

test.each([
  "3 h",
  "1 500",
  "1 3/4",
  "1.5 h 3 min",
  "3 min 2 h",
  "3 h 6 kg",
  "1 h 2 h",
  "3 h 6 min 2",
  "2 h x",
])("%s is not several units of one kind", (text) =>
  expect(read(text)).not.toMatch(/^[\d.]+ (min|s|cm|m|kg), /),
);

test("hours and minutes are the same minutes, however they are written", () => {
  fc.assert(
    fc.property(fc.nat(99), fc.nat(59), (hours, minutes) => {
      const wanted = hours * 60 + minutes;
      for (const text of [
        `${hours} h ${minutes} min`,
        `${hours}h${minutes}`,
        `${hours} hr ${minutes} mins`,
      ]) {
        const reading = readNumber(text);
        expect(reading).toMatchObject({ ok: true, unit: "min", plain: String(wanted) });
      }
    }),
  );
});
