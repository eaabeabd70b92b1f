import type { Chance } from "@/core/numbers/seeded";

/** One of a list, each equally likely; undefined: of an empty one. */
export const anyOf = <T>(list: readonly T[], next: Chance): T | undefined =>
  list[Math.floor(next() * list.length)];
