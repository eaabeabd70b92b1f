import type { Instant } from "@/core/time/instants";

/** Where a desk stands between working and handed in: one value, changed in one place. */
export type DeskPhase =
  | { readonly kind: "running" }
  /** Handing in was pressed, and is on its way. */
  | { readonly kind: "handing-in"; readonly pressedAt: Instant }
  /** It waits for the connection. */
  | { readonly kind: "hand-in-waits"; readonly pressedAt: Instant }
  /**
   * The end was reached, by the clock of this desk or by what a save was told. The server's word decides: handed in, or
   * with more time than that of the end which was reached (null: any word that it runs opens the desk again).
   */
  | { readonly kind: "time-up"; readonly reached: Instant | null }
  /** The attempt is handed in. */
  | { readonly kind: "over" };

/** What can happen to a desk that its phase depends on. */
export type PhaseEvent =
  | { readonly type: "hand-in-pressed"; readonly at: Instant }
  | { readonly type: "hand-in-waits" }
  /** The server will not hand in, or the student goes on working. */
  | { readonly type: "hand-in-given-up" }
  | { readonly type: "end-reached"; readonly deadline: Instant }
  /** A save was refused because the attempt is over. */
  | { readonly type: "save-found-it-over" }
  | { readonly type: "handed-in" }
  /** The server says how the attempt stands. */
  | {
      readonly type: "told";
      readonly now: Instant;
      readonly deadline: Instant | null;
      readonly handedIn: boolean;
    };

export const RUNNING: DeskPhase = { kind: "running" };

/** Whether what is written at the desk can be changed. */
export const isWritable = ({ kind }: DeskPhase): boolean => kind !== "time-up" && kind !== "over";

function told(phase: DeskPhase, event: Extract<PhaseEvent, { type: "told" }>): DeskPhase {
  if (event.handedIn) return { kind: "over" };
  if (phase.kind !== "time-up") return phase;
  const { deadline, now } = event;
  const hasTime = deadline === null || now < deadline;
  const isLater = phase.reached === null || deadline === null || deadline > phase.reached;
  return hasTime && isLater ? RUNNING : phase;
}

/** The phase after something happened; the same value where it changes nothing. */
export function phaseAfter(phase: DeskPhase, event: PhaseEvent): DeskPhase {
  if (phase.kind === "over") return phase;
  switch (event.type) {
    case "handed-in":
      return { kind: "over" };
    case "told":
      return told(phase, event);
    case "end-reached":
      return phase.kind === "time-up" ? phase : { kind: "time-up", reached: event.deadline };
    case "save-found-it-over":
      return phase.kind === "time-up" ? phase : { kind: "time-up", reached: null };
    case "hand-in-pressed":
      return phase.kind === "running" ? { kind: "handing-in", pressedAt: event.at } : phase;
    case "hand-in-waits":
      return phase.kind === "handing-in" ? { kind: "hand-in-waits", pressedAt: phase.pressedAt } : phase;
    case "hand-in-given-up":
      return phase.kind === "handing-in" || phase.kind === "hand-in-waits" ? RUNNING : phase;
  }
}
