import type { DraftPiece, Pieces } from "@/core/draft/pieces";
import { sameValue } from "@/core/same-value";

/** One thing that was done, with what each piece held before and after it; undefined: it was not there. */
export interface UndoStep {
  /** What was done, as a name of it. */
  readonly words: string;
  readonly before: ReadonlyMap<number, DraftPiece | undefined>;
  readonly after: ReadonlyMap<number, DraftPiece>;
  /** Where one was. */
  readonly here: number;
  /** What was typed into one field, one after the other, is one step. */
  readonly typedIn: string | null;
}

/** So many can be undone. */
const MOST_STEPS = 500;

/** What was done in a draft on this page, to be undone and done again. */
export class UndoSteps {
  #done: UndoStep[] = [];
  #undone: UndoStep[] = [];

  get last(): UndoStep | null {
    return this.#done.at(-1) ?? null;
  }
  get next(): UndoStep | null {
    return this.#undone.at(-1) ?? null;
  }

  /** Notes what was done. What was undone before cannot be done again. */
  add(step: UndoStep): void {
    this.#undone = [];
    const last = this.last;
    if (last && step.typedIn !== null && last.typedIn === step.typedIn) {
      // The state before the first letter, and the one after the last.
      this.#done[this.#done.length - 1] = { ...step, before: last.before };
      return;
    }
    this.#done = [...this.#done, step].slice(-MOST_STEPS);
  }

  /** From now on what is typed is a step of its own. */
  settle(): void {
    const last = this.last;
    if (last?.typedIn) this.#done[this.#done.length - 1] = { ...last, typedIn: null };
  }

  /**
   * What has to be written to take the last step back; null where there is none. A piece that another has changed since is
   * left as it is: their work is not undone.
   */
  undo(pieces: Pieces): { readonly step: UndoStep; readonly changed: Map<number, DraftPiece> } | null {
    const step = this.#done.pop();
    if (!step) return null;
    this.#undone.push(step);
    return { step, changed: changes(pieces, step.after, step.before) };
  }

  /** The same, to do again what was undone last. */
  redo(pieces: Pieces): { readonly step: UndoStep; readonly changed: Map<number, DraftPiece> } | null {
    const step = this.#undone.pop();
    if (!step) return null;
    this.#done.push({ ...step, typedIn: null });
    return { step, changed: changes(pieces, step.before, step.after) };
  }
}

function changes(
  pieces: Pieces,
  from: ReadonlyMap<number, DraftPiece | undefined>,
  to: ReadonlyMap<number, DraftPiece | undefined>,
): Map<number, DraftPiece> {
  const changed = new Map<number, DraftPiece>();
  for (const [slot, piece] of to) {
    // What was not there before stays as a piece that nothing names.
    if (piece !== undefined && sameValue(pieces.get(slot), from.get(slot))) changed.set(slot, piece);
  }
  return changed;
}
