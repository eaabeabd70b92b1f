import type { Instant } from "../time/instants";
import type { GradebookPlan } from "./gradebook-plan";

/** One student whose standing changes. In per cent, once all that is handed in is marked: at least, and at most. */
export interface EffectLine {
  readonly name: string;
  readonly from: string | null;
  readonly to: string | null;
  readonly fromHigh: string | null;
  readonly toHigh: string | null;
  /** More than 0: it rises; less: it falls. */
  readonly direction: number;
}

/** What a change of what counts does to everyone's standing. */
export interface PlanEffect {
  /** Those whose standing changes. */
  readonly lines: readonly EffectLine[];
  readonly students: number;
  /** The mean of the standings, in per cent. */
  readonly meanFrom: string | null;
  readonly meanTo: string | null;
  /** What was looked at; sent back, so that nothing else is done. */
  readonly expects: string;
}

/** What counted from some moment on. */
export interface PlanVersion {
  readonly number: number;
  readonly plan: GradebookPlan;
  readonly reason: string;
  /** Null: it stood so before anything was changed. */
  readonly by: string | null;
  readonly at: Instant;
}
