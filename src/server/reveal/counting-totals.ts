import { type CountingTotals, countingTotals } from "@/core/attempt/late";
import type { Window } from "@/core/attempt/window";
import type { QuizSettings } from "@/core/quiz/rules";
import type { attempt } from "@/data/schema";
import { instantOf } from "../base/clock";

/** The totals of a handed-in attempt as they count: what lateness costs is taken off. */
export const countingOf = (
  {
    window,
    quiz,
  }: {
    readonly window: Pick<Window, "due">;
    readonly quiz: { readonly settings: Pick<QuizSettings, "lateCostPerDay"> };
  },
  {
    earned,
    awaited,
    maximum,
    handedInAt,
    addedMs,
  }: Pick<typeof attempt.$inferSelect, "earned" | "awaited" | "maximum" | "handedInAt" | "addedMs">,
): CountingTotals =>
  countingTotals({
    earned: earned ?? "0",
    awaited: awaited ?? "0",
    maximum,
    handedInAt: instantOf(handedInAt) ?? 0,
    due: window.due,
    costPerDay: quiz.settings.lateCostPerDay ?? null,
    added: addedMs,
  });
