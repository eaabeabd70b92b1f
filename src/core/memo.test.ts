import { expect, test } from "vitest";
import { memo } from "./memo";

test("each value is made once, and no more than some thousand are kept", () => {
  const values = new Map<number, string>();
  let made = 0;
  const of = (key: number) =>
    memo(values, key, () => {
      made += 1;
      return `made ${key}`;
    });
  expect([of(1), of(2), of(1)]).toEqual(["made 1", "made 2", "made 1"]);
  expect(made).toBe(2);
  for (let key = 0; key < 12_000; key += 1) expect(of(key)).toEqual(`made ${key}`);
  expect(values.size).toBeLessThanOrEqual(5_000);
});
