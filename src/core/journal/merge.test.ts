import fc from "fast-check";
import { expect, test } from "vitest";
import { type JournalEntry, mergeEntries } from "./merge";

const entry = fc.record({
  slot: fc.integer({ min: 1, max: 3 }),
  answer: fc.constantFrom("a", "b", null),
  ribbon: fc.boolean(),
  ruledOut: fc.constant([]),
  revision: fc.integer({ min: 1, max: 4 }),
  device: fc.constantFrom("0a", "0b", "0c"),
  writtenAt: fc.integer({ min: 0, max: 5 }),
});

/** As devices make them: what a device wrote at one time with one revision is one entry. */
const entries = fc.array(entry, { maxLength: 12 }).map((list) => {
  const unique = new Map(
    list.map((each) => [`${each.slot} ${each.device} ${each.revision} ${each.writtenAt}`, each]),
  );
  return [...unique.values()] as JournalEntry[];
});

const merged = (...lists: JournalEntry[][]) =>
  [...mergeEntries(...lists).values()].sort((a, b) => a.slot - b.slot);

test("merging does not depend on order, grouping or repetition", () => {
  fc.assert(
    fc.property(entries, (all) => {
      const half = Math.floor(all.length / 2);
      const [a, b] = [all.slice(0, half), all.slice(half)];
      expect(merged(a, b)).toEqual(merged(b, a));
      expect(merged(merged(a), merged(b))).toEqual(merged(a, b));
      expect(merged(a, b, a, b)).toEqual(merged(a, b));
    }),
  );
});

test("of two devices the later writing stands", () => {
  const base = { slot: 1, ribbon: false, ruledOut: [], revision: 1 };
  const first = { ...base, answer: "first", device: "0b", writtenAt: 10 };
  const later = { ...base, answer: "later", device: "0a", writtenAt: 11 };
  expect(mergeEntries([later], [first]).get(1)?.answer).toEqual("later");
});
