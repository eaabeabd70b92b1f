import type { DeskNotice, DeskOrder, DeskPages, DeskView, PictureView } from "@/core/attempt/desk-view";
import {
  closingWords,
  type MoveRuling,
  rulingOnMove,
  type SlotState as Standing,
} from "@/core/attempt/order";
import type { SlotStanding, TriedPart } from "@/core/attempt/standing";
import type { JournalEntry } from "@/core/journal/merge";
import { type Answer, fillOf, type PresentedQuestion, readAnswer } from "@/core/kinds/answering";
import type { Fill } from "@/core/kinds/kind";
import type { Told } from "@/core/reveal/told";
import type { Instant } from "@/core/time/instants";
import { type DeskPhase, RUNNING } from "./desk-phase";
import type { PendingFile } from "./file-queue";
import type { SendState } from "./sender";

/** What stands in a slot on this screen. */
export interface SlotState {
  readonly standing: Standing;
  /** Null: not on this device, because it is closed or not reached yet. */
  readonly question: PresentedQuestion | null;
  readonly answer: Answer | null;
  readonly folded: boolean;
  readonly ruledOut: readonly string[];
  readonly fill: Fill;
  readonly told: Told | null;
  readonly tries: readonly TriedPart[] | null;
  /** Whether the server has all of it. */
  readonly saved: boolean;
}

/** What the server did not take of a question, and why. */
export interface RefusedSlot {
  readonly slot: number;
  readonly sentence: string;
}

/** Another device wrote later: what stood here before, in one line. */
export interface Replaced {
  readonly slot: number;
  readonly before: string;
}

/** A page that is about to be left for good, with what is said before. */
export interface Turn {
  readonly from: number;
  readonly to: number;
  readonly words: string;
}

export interface DeskState {
  readonly slots: readonly SlotState[];
  readonly here: number;
  readonly look: "question" | "final";
  /** The page that was reached, from 0. */
  readonly page: number;
  /** Asked before a page is left with something empty on it. */
  readonly asking: Turn | null;
  /** A page is being turned, or an answer checked, by the server. */
  readonly busy: "turning" | "checking" | null;
  /** Why the last thing that was asked for did not happen. */
  readonly problem: string | null;
  readonly pictures: readonly PictureView[];
  readonly notices: readonly DeskNotice[];
  /** On their way to the server, or refused by it. */
  readonly files: readonly PendingFile[];
  readonly sending: SendState;
  /** When everything was saved last, by the server's time; null: nothing to save yet. */
  readonly savedAt: Instant | null;
  /** Since when the server cannot be reached. */
  readonly unreachableSince: Instant | null;
  readonly allSaved: boolean;
  readonly keepsOnDevice: boolean;
  readonly startedAt: Instant;
  readonly deadline: Instant | null;
  /** The deadline was moved while this desk was open. */
  readonly extended: boolean;
  /** Where the desk stands between working and handed in (`desk-phase.ts`). */
  readonly phase: DeskPhase;
  /** What the server did not take, by the question: it stays on this device, and is not saved. */
  readonly refusals: readonly RefusedSlot[];
  readonly replaced: Replaced | null;
}

/** A section with the slot that it begins with. */
export interface PlacedSection {
  readonly title: string | null;
  readonly first: number;
  readonly slots: number;
}

export function placedSections(sections: DeskView["sections"]): PlacedSection[] {
  let next = 1;
  return sections.map((section) => {
    const first = next;
    next += section.slots;
    return { ...section, first };
  });
}

/** The page of a slot, from 0. */
export const pageOf = (order: DeskOrder, slot: number): number =>
  order.pages.findIndex((page) => page.includes(slot));

/** A slot from what the server says of it and the newest entry that is known. */
export function slotFrom(
  standing: SlotStanding,
  entry: JournalEntry | undefined,
  saved: boolean,
  question: PresentedQuestion | null = standing.question,
): SlotState {
  const reading = question ? readAnswer(question, entry?.answer ?? null) : null;
  const answer = reading?.ok ? reading.answer : null;
  return {
    standing: standing.state,
    question,
    answer,
    folded: entry?.folded ?? false,
    ruledOut: entry?.ruledOut ?? [],
    fill: question ? fillOf(question, answer) : standing.fill,
    told: standing.told,
    tries: standing.tries,
    saved,
  };
}

/** The state of a desk as its page brings it. */
export function initialState(view: DeskView, entries: ReadonlyMap<number, JournalEntry>): DeskState {
  return {
    slots: view.standing.slots.map((standing, i) => slotFrom(standing, entries.get(i + 1), true)),
    here: Math.max(1, Math.min(view.here, view.standing.slots.length)),
    look: "question",
    page: view.standing.page,
    asking: null,
    busy: null,
    problem: null,
    pictures: view.pictures,
    notices: [],
    files: [],
    sending: { kind: "idle" },
    savedAt: view.answers.length > 0 ? view.clock.serverNow : null,
    unreachableSince: null,
    allSaved: true,
    keepsOnDevice: true,
    startedAt: view.clock.startedAt,
    deadline: view.clock.deadline,
    extended: false,
    phase: RUNNING,
    refusals: [],
    replaced: null,
  };
}

/**
 * The state with other pages open. What was just left and told keeps its question on the screen until the student goes
 * on; a question that is closed for good leaves the device.
 */
export function withPages(
  state: DeskState,
  pages: DeskPages,
  entries: ReadonlyMap<number, JournalEntry>,
  isSaved: (slot: number) => boolean,
  justLeft: readonly number[] = [],
): DeskState {
  return {
    ...state,
    page: pages.standing.page,
    pictures: [
      ...pages.pictures,
      ...state.pictures.filter((old) => !pages.pictures.some(({ id }) => id === old.id)),
    ],
    slots: pages.standing.slots.map((standing, i) => {
      const slot = i + 1;
      const before = justLeft.includes(slot) && standing.told ? (state.slots[i]?.question ?? null) : null;
      return slotFrom(standing, entries.get(slot), isSaved(slot), standing.question ?? before);
    }),
  };
}

export type Going =
  /** On this device alone. */
  | { readonly kind: "here" }
  /** The server turns the page; with `words` when something has to be said before. */
  | { readonly kind: "turn"; readonly from: number; readonly to: number; readonly words: string | null }
  | { readonly kind: "not"; readonly words: string };

const fillsOf = (state: DeskState): Map<number, Fill> =>
  new Map(state.slots.map((slot, i) => [i + 1, slot.fill]));

/** What going to a slot takes: nothing, a page turned by the server, or it cannot be. */
export const goingTo = (state: DeskState, order: DeskOrder, slot: number): Going =>
  goingToPage(state, order, pageOf(order, slot), `Question ${slot}`);

/** What going on from the last page takes: where each question is told once it is left, the last one is told first. */
export function finishing(state: DeskState, order: DeskOrder): Going {
  const from = pageOf(order, state.here);
  const tells = from === order.pages.length - 1 && tellsOnLeaving(state, order, from);
  return tells ? goingToPage(state, order, order.pages.length, "The final look") : { kind: "here" };
}

function goingToPage(state: DeskState, order: DeskOrder, to: number, name: string): Going {
  const from = pageOf(order, state.here);
  if (!order.byServer || from === to) return { kind: "here" };
  const turn = turnOf(state, order, from, to);
  if (order.rule === "one-way") {
    // What was left and told may still be on the screen; going on from there turns nothing any more.
    if (to === state.page) return { kind: "here" };
    if (to < state.page) return { kind: "not", words: `${name} is closed: this quiz goes one way.` };
    return from === state.page ? turn : { kind: "not", words: `${name} is not open yet.` };
  }
  if (order.rule === "up-to" && to > state.page) {
    if (to > state.page + 1)
      return { kind: "not", words: `${name} opens when the questions before it are answered.` };
    return from === state.page
      ? turn
      : { kind: "not", words: `Question ${order.pages[state.page]?.at(-1) ?? 1} comes first.` };
  }
  return tellsOnLeaving(state, order, from) ? turn : { kind: "here" };
}

/** Whether leaving a page tells something that was not told yet. */
export function tellsOnLeaving(state: DeskState, order: DeskOrder, page: number): boolean {
  if (!order.tellAtOnce) return false;
  const slots = (order.pages[page] ?? []).map((slot) => state.slots[slot - 1]);
  return slots.some(
    (slot) => slot?.standing === "open" && (order.rule === "one-way" || slot.fill.state === "full"),
  );
}

function turnOf(state: DeskState, order: DeskOrder, from: number, to: number): Going {
  const fills = fillsOf(state);
  const ruling: MoveRuling = rulingOnMove({
    rules: {
      order: order.rule === "one-way" ? "one-way" : "free",
      answerBeforeMovingOn: order.answerFirst,
      tellAtOnce: order.tellAtOnce,
    },
    from,
    to,
    pages: order.pages,
    reached: state.page,
    fills,
  });
  if (!ruling.may) return { kind: "not", words: ruling.words };
  const page = order.pages[from] ?? [];
  const isOpen = page.some((slot) => fills.get(slot)?.state !== "full");
  return {
    kind: "turn",
    from,
    to,
    words: order.rule === "one-way" && isOpen ? closingWords(page, fills) : null,
  };
}

/** What leaving the page on the screen does, said beside the way on all the time; null: nothing. */
export function leavingWords(state: DeskState, order: DeskOrder): string | null {
  const page = pageOf(order, state.here);
  const slots = order.pages[page] ?? [];
  if (slots.every((slot) => state.slots[slot - 1]?.standing !== "open")) return null;
  if (order.rule === "one-way") return closingWords(slots, fillsOf(state));
  if (order.tellAtOnce) return "Answered questions are told and closed when you move on.";
  return null;
}
