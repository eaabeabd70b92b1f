import { randomInt } from "node:crypto";
import { PIECES_BEGIN, PIECES_END } from "@/core/draft/pieces";

/** Numbers for new pieces, drawn by lot, each after the one before: what is listed in a quiz keeps its order. */
export function newSlots(): () => number {
  let last = randomInt(PIECES_BEGIN, PIECES_END / 2);
  return () => {
    last += randomInt(1, 100_000);
    return last;
  };
}
