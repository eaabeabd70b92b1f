import { type Allowance, NO_ALLOWANCE } from "@/core/attempt/deadline";
import { windowFor } from "@/core/attempt/window";
import type { allowance, quiz } from "@/data/schema";
import { instantOf } from "../base/clock";

/** The allowance of a student for a quiz, from its row; without one, none. */
export function allowanceOf(row: typeof allowance.$inferSelect | null): Allowance {
  if (!row) return NO_ALLOWANCE;
  const { factor, extraMinutes, extraAttempts } = row;
  return {
    factor,
    extraMinutes,
    extraAttempts,
    opens: instantOf(row.opens),
    due: instantOf(row.due),
    closes: instantOf(row.closes),
  };
}

/** The window of a quiz for the student who has this allowance. */
export const windowOf = (row: Pick<typeof quiz.$inferSelect, "opens" | "due" | "closes">, own: Allowance) =>
  windowFor({ opens: instantOf(row.opens), due: instantOf(row.due), closes: instantOf(row.closes) }, own);
