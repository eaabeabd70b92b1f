import type { TriedPart } from "@/core/attempt/attempt-progress";
import type { DeskPages } from "@/core/desk/desk-view";
import { said } from "@/core/said";
import { ask, Refusal, refusalOr } from "@/ui/requests";
import { say } from "@/words/t";
import type { DeskKeeping } from "./answers";
import type { DeskScreen } from "./desk-screen";
import { type DeskState, finishing, type Going, goingTo, type Turn, withPages } from "./desk-state";
import { storeDesk } from "./offline-desk";
import type { Saving } from "./saving";

/** Said where something needs the server and the server is not there. */
const NEEDS_CONNECTION = said("desk.turning.there-is-no-connection-just-now");

/** Going from question to question: on this device alone, or by the server, where that closes, tells or opens something. */
export class Turning {
  /** How often something was checked or told when it was last heard of; null: only this desk did since. */
  #turns: number | null = null;
  #fetching: Promise<void> | null = null;

  constructor(
    private readonly screen: DeskScreen,
    private readonly keeping: DeskKeeping,
    private readonly saving: Saving,
  ) {}

  /** Goes to a question: at once, by turning a page on the server, or not at all, which is said. */
  go(slot: number): void {
    const state = this.screen.state();
    if (slot < 1 || slot > state.slots.length || state.busy) return;
    this.keeping.writeTyped();
    this.saving.forgetClosedRefusals();
    const going = goingTo(this.screen.state(), this.screen.view.order, slot);
    if (going.kind === "here") this.screen.set({ here: slot, look: "question", problem: null });
    else if (going.kind === "not") this.screen.set({ problem: going.words });
    else this.#turnOrAsk(going);
  }

  /** The slot that is on the screen became another one by scrolling or by the focus: noted, nothing moves. */
  at(slot: number): void {
    if (slot !== this.screen.state().here) this.screen.set({ here: slot });
  }

  /** On to the final look; where each question is told once it is left, the last one is told first. */
  finish(): void {
    if (this.screen.state().busy) return;
    this.keeping.writeTyped();
    const going = finishing(this.screen.state(), this.screen.view.order);
    if (going.kind === "turn") this.#turnOrAsk(going);
    else this.look("final");
  }

  #turnOrAsk(going: Extract<Going, { kind: "turn" }>): void {
    const { words } = going;
    if (words === null) void this.turn(going);
    else this.screen.set({ asking: { ...going, words }, problem: null });
  }

  /** The page is not left. */
  stay(): void {
    this.screen.set({ asking: null });
  }

  look(look: DeskState["look"]): void {
    this.keeping.writeTyped();
    this.screen.set({ look, problem: null });
  }

  forgetProblem(): void {
    this.screen.set({ problem: null });
  }

  /** Turns a page on the server: what is left is closed or told, what comes is sent. */
  async turn({ from, to }: Pick<Turn, "from" | "to">): Promise<void> {
    this.screen.set({ busy: "turning", problem: null });
    try {
      await this.saving.all();
      const pages = await this.#ask<DeskPages>("move", { from, to });
      this.#turns = null;
      const { order } = this.screen.view;
      const left = order.pages[from] ?? [];
      this.#adopt(pages, left);
      const wasTold = order.tellAtOnce && left.some((slot) => this.screen.slot(slot).told !== null);
      const next = order.pages[to]?.[0] ?? this.screen.state().here;
      this.screen.set({ busy: null, asking: null, look: "question", ...(wasTold ? {} : { here: next }) });
    } catch (error) {
      this.screen.set({ busy: null, asking: null, problem: refusalOr(error, say(NEEDS_CONNECTION)) });
      if (error instanceof Refusal && error.type === "closed") void this.refetch();
    }
  }

  /** Checks the answer to a question, or one part of it by its place, where the quiz allows tries. */
  async check(slot: number, part: number | null = null): Promise<void> {
    if (this.screen.state().busy) return;
    this.screen.set({ busy: "checking", problem: null });
    try {
      await this.saving.all();
      const tries = await this.#ask<TriedPart[]>("check", { slot, ...(part === null ? {} : { part }) });
      this.#turns = null;
      const isDone = tries.every((part) => part.closed);
      this.screen.setSlot(slot, {
        ...this.screen.slot(slot),
        tries,
        ...(isDone && { access: "closed" as const }),
      });
      this.screen.set({ busy: null });
    } catch (error) {
      this.screen.set({ busy: null, problem: refusalOr(error, say(NEEDS_CONNECTION)) });
    }
  }

  #ask<T>(what: "move" | "check", body: object): Promise<T> {
    return ask<T>(`/api/attempts/${this.screen.view.attemptId}/${what}`, {
      body: { ...body, device: this.keeping.device },
      limit: 10_000,
    });
  }

  /** Notes how often something was checked or told in the attempt; returns whether another desk did so. */
  turnedElsewhere(turns: number): boolean {
    const turned = this.#turns !== null && turns !== this.#turns && this.screen.state().busy === null;
    this.#turns = turns;
    return turned;
  }

  /** What is being fetched now, if anything. */
  get fetching(): Promise<void> | null {
    return this.#fetching;
  }

  /** Brings what the server has; asked again while it is on its way, it goes once more afterwards. */
  refetch(): Promise<void> {
    const next = (this.#fetching ?? Promise.resolve()).then(() => this.#fetch());
    this.#fetching = next;
    void next.finally(() => {
      if (this.#fetching === next) this.#fetching = null;
    });
    return next;
  }

  async #fetch(): Promise<void> {
    try {
      const { attemptId, order } = this.screen.view;
      this.#adopt(await ask<DeskPages>(`/api/attempts/${attemptId}/pages`, { limit: 8_000 }));
      const { slots, here, page } = this.screen.state();
      if (slots[here - 1]?.question) return;
      this.screen.set({ here: order.pages[page]?.[0] ?? here, look: "question" });
    } catch {
      // The next pulse says again that the page was turned.
    }
  }

  #adopt(pages: DeskPages, justLeft: readonly number[] = []): void {
    // What is typed at this moment is in the journal before anything takes its place, or closes its question.
    this.keeping.writeTyped();
    for (const entry of pages.answers) this.keeping.takeFromServer(entry);
    const isSaved = (slot: number) => !this.keeping.isWaiting(slot);
    this.screen.set(withPages(this.screen.state(), pages, this.keeping.entries, isSaved, justLeft));
    storeDesk(this.screen.view.attemptId, true);
  }
}
