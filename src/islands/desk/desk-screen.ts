import type { DeskView } from "@/core/desk/desk-view";
import { isWritable } from "./desk-phase";
import type { DeskState, SlotOnScreen } from "./desk-state";
import { noteHere } from "./offline-desk";

/** What stands on the desk's screen: its parts change it here, and whoever shows it is told. */
export class DeskScreen {
  readonly #listeners = new Set<() => void>();
  #state: DeskState;

  constructor(
    readonly view: DeskView,
    state: DeskState,
  ) {
    this.#state = state;
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };

  readonly state = (): DeskState => this.#state;

  set(change: Partial<DeskState>): void {
    if (change.here !== undefined && change.here !== this.#state.here)
      noteHere(this.view.attemptId, change.here);
    this.#state = { ...this.#state, ...change };
    for (const listener of this.#listeners) listener();
  }

  /** @throws Error when there is no such slot */
  slot(slot: number): SlotOnScreen {
    const found = this.#state.slots[slot - 1];
    if (!found) throw new Error(`There is no slot ${slot}.`);
    return found;
  }

  setSlot(slot: number, next: SlotOnScreen): void {
    this.set({ slots: this.#state.slots.map((each, i) => (i === slot - 1 ? next : each)) });
  }

  isOpen(slot: number): boolean {
    return this.#state.slots[slot - 1]?.access === "open";
  }

  /** Whether what stands in a slot can be changed now. */
  mayChange(slot: number): boolean {
    return isWritable(this.#state.phase) && this.isOpen(slot);
  }
}
