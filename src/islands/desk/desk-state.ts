import type { SlotProgress, TriedPart } from "@/core/attempt/attempt-progress";
import { closingWords, type MoveRuling, rulingOnMove, type SlotAccess } from "@/core/attempt/order";
import type { DeskMessage, DeskOrder, DeskPages, DeskView, PictureView } from "@/core/desk/desk-view";
import type { JournalEntry } from "@/core/journal/merge";
import { type Answer, fillOf, type PresentedQuestion, readAnswer } from "@/core/kinds/answering";
import type { Fill } from "@/core/kinds/kind";
import type { Told } from "@/core/reveal/told";
import type { Instant } from "@/core/time/instants";
import { say, t } from "@/words/t";
import type { SaveState } from "../keeping/save-words";
import { type DeskPhase, RUNNING } from "./desk-phase";

/** What stands in a slot on this screen. */
export interface SlotOnScreen {
  readonly access: SlotAccess;
  /** Null: not on this device, because it is closed or not reached yet. */
  readonly question: PresentedQuestion | null;
  readonly answer: Answer | null;
  readonly ribbon: boolean;
  readonly ruledOut: readonly string[];
  readonly fill: Fill;
  readonly told: Told | null;
  readonly tries: readonly TriedPart[] | null;
  readonly isDeclaration: boolean;
  /** Whether the server has all of it. */
  readonly saved: boolean;
  /** What another device or window did here while this desk was open; until it is put away or answered. */
  readonly elsewhere: Elsewhere | null;
  /** What a key changed here, until something else does. */
  readonly keyed: Keyed | null;
}

/** Another device or window wrote something else here. */
export interface Elsewhere {
  /** When it was written there. */
  readonly at: Instant;
  /** `shown`: it stands here now. `waits`: it is saved, and comes when the field is left. `passed`: what stands here is later. */
  readonly state: "shown" | "waits" | "passed";
  /** The other of the two answers, to be taken instead: what stood here before, or what was written there. */
  readonly other: Answer | null;
  /** It in one line; "" when it is empty. */
  readonly words: string;
}

/** A change that a single key made, in words, with what stood there before. */
export interface Keyed {
  readonly words: string;
  readonly before: Answer | null;
}

/** A page that is about to be left for good, with what is said before. */
export interface Turn {
  readonly from: number;
  readonly to: number;
  readonly words: string;
}

export interface DeskState extends SaveState {
  readonly slots: readonly SlotOnScreen[];
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
  readonly messages: readonly DeskMessage[];
  readonly startedAt: Instant;
  readonly deadline: Instant | null;
  /** Where the deadline was moved to while this desk was open; null: nowhere, or it was read. */
  readonly moved: "later" | "earlier" | null;
  /** Where the desk stands between working and handed in (`desk-phase.ts`). */
  readonly phase: DeskPhase;
  /** The attempt is open at another desk too; until it is put away. */
  readonly isOpenElsewhere: boolean;
  /** Whether the start of the clock is confirmed: until then its end is not known to the second. */
  readonly isClockSure: boolean;
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

/** The slots that are counted as answered or not: a declaration stands apart. */
export const countedSlots = (slots: readonly SlotOnScreen[]): readonly SlotOnScreen[] =>
  slots.filter((slot) => !slot.isDeclaration);

/** How many questions are answered whole and on the server. */
export function savedCount({ slots }: Pick<DeskState, "slots">): {
  readonly saved: number;
  readonly of: number;
} {
  const counted = countedSlots(slots);
  return {
    saved: counted.filter(({ fill, saved }) => fill.state === "full" && saved).length,
    of: counted.length,
  };
}

/** How an attempt is answered as it stands. A question answered in part is not answered. */
export interface AnsweredCounts {
  readonly answered: number;
  readonly inPart: number;
  readonly empty: number;
  readonly of: number;
}

export function answeredCounts(slots: readonly SlotOnScreen[]): AnsweredCounts {
  const counted = countedSlots(slots);
  const of = (state: Fill["state"]) => counted.filter(({ fill }) => fill.state === state).length;
  return { answered: of("full"), inPart: of("part"), empty: of("empty"), of: counted.length };
}

/** The page of a slot, from 0. */
export const pageOf = (order: DeskOrder, slot: number): number =>
  order.pages.findIndex((page) => page.includes(slot));

/** A slot from what the server says of it and the newest entry that is known. */
export function slotFrom(
  progress: SlotProgress,
  entry: JournalEntry | undefined,
  saved: boolean,
  question: PresentedQuestion | null = progress.question,
): SlotOnScreen {
  const reading = question ? readAnswer(question, entry?.answer ?? null) : null;
  const answer = reading?.ok ? reading.answer : null;
  return {
    access: progress.access,
    question,
    answer,
    ribbon: entry?.ribbon ?? false,
    ruledOut: entry?.ruledOut ?? [],
    fill: question ? fillOf(question, answer) : progress.fill,
    told: progress.told,
    tries: progress.tries,
    isDeclaration: progress.isDeclaration,
    saved,
    elsewhere: null,
    keyed: null,
  };
}

/**
 * A slot as it is after the server or this device's journal was read again. What was said of a key stays for as long as
 * the answer it speaks of does.
 */
export function slotAgain(
  before: SlotOnScreen,
  progress: SlotProgress,
  entry: JournalEntry | undefined,
  saved: boolean,
  question: PresentedQuestion | null = progress.question,
): SlotOnScreen {
  const slot = slotFrom(progress, entry, saved, question);
  const isSame = JSON.stringify(slot.answer) === JSON.stringify(before.answer);
  return { ...slot, keyed: isSame && question !== null ? before.keyed : null };
}

/** The state of a desk as its page brings it. */
export function initialState(view: DeskView, entries: ReadonlyMap<number, JournalEntry>): DeskState {
  return {
    slots: view.progress.slots.map((progress, i) => slotFrom(progress, entries.get(i + 1), true)),
    here: Math.max(1, Math.min(view.here, view.progress.slots.length)),
    look: "question",
    page: view.progress.page,
    asking: null,
    busy: null,
    problem: null,
    pictures: view.pictures,
    messages: [],
    files: [],
    sending: { kind: "idle" },
    savedAt: view.answers.length > 0 ? view.clock.serverNow : null,
    unreachableSince: null,
    allSaved: true,
    keepsOnDevice: true,
    startedAt: view.clock.startedAt,
    deadline: view.clock.deadline,
    moved: null,
    phase: RUNNING,
    refusals: [],
    isOpenElsewhere: false,
    isClockSure: view.confirmed,
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
    page: pages.progress.page,
    pictures: [
      ...pages.pictures,
      ...state.pictures.filter((old) => !pages.pictures.some(({ id }) => id === old.id)),
    ],
    slots: pages.progress.slots.map((progress, i) => {
      const slot = i + 1;
      const old = state.slots[i];
      const question =
        progress.question ?? (justLeft.includes(slot) && progress.told ? (old?.question ?? null) : null);
      const entry = entries.get(slot);
      const saved = isSaved(slot);
      return {
        ...(old
          ? slotAgain(old, progress, entry, saved, question)
          : slotFrom(progress, entry, saved, question)),
        elsewhere: progress.access === "open" ? (old?.elsewhere ?? null) : null,
      };
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
  goingToPage(state, order, pageOf(order, slot), t("desk.desk-state.question", { slot }));

/** What going on from the last page takes: where each question is told once it is left, the last one is told first. */
export function finishing(state: DeskState, order: DeskOrder): Going {
  const from = pageOf(order, state.here);
  const tells = from === order.pages.length - 1 && tellsOnLeaving(state, order, from);
  return tells
    ? goingToPage(state, order, order.pages.length, t("desk.desk-state.the-final-look"))
    : { kind: "here" };
}

function goingToPage(state: DeskState, order: DeskOrder, to: number, name: string): Going {
  const from = pageOf(order, state.here);
  if (!order.byServer || from === to) return { kind: "here" };
  const turn = turnOf(state, order, from, to);
  if (order.rule === "one-way") {
    // What was left and told may still be on the screen; going on from there turns nothing any more.
    if (to === state.page) return { kind: "here" };
    if (to < state.page)
      return { kind: "not", words: t("desk.desk-state.is-closed-this-quiz-goes-one", { name }) };
    return from === state.page
      ? turn
      : { kind: "not", words: t("desk.desk-state.is-not-open-yet", { name }) };
  }
  if (order.rule === "up-to" && to > state.page) {
    if (to > state.page + 1)
      return { kind: "not", words: t("desk.desk-state.opens-when-the-questions-before-it", { name }) };
    return from === state.page
      ? turn
      : {
          kind: "not",
          words: t("desk.desk-state.question-comes-first", { at: order.pages[state.page]?.at(-1) ?? 1 }),
        };
  }
  return tellsOnLeaving(state, order, from) ? turn : { kind: "here" };
}

/** Whether leaving a page tells something that was not told yet. */
export function tellsOnLeaving(state: DeskState, order: DeskOrder, page: number): boolean {
  if (!order.tellAtOnce) return false;
  const slots = (order.pages[page] ?? []).map((slot) => state.slots[slot - 1]);
  return slots.some(
    (slot) => slot?.access === "open" && (order.rule === "one-way" || slot.fill.state === "full"),
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
  if (!ruling.may) return { kind: "not", words: say(ruling.words) };
  const page = order.pages[from] ?? [];
  const lacks = page.some((slot) => fills.get(slot)?.state !== "full");
  return {
    kind: "turn",
    from,
    to,
    words: order.rule === "one-way" && lacks ? say(closingWords(page, fills)) : null,
  };
}

/** What leaving the page on the screen does, said beside the way on all the time; null: nothing. */
export function leavingWords(state: DeskState, order: DeskOrder): string | null {
  const page = pageOf(order, state.here);
  const slots = order.pages[page] ?? [];
  if (slots.every((slot) => state.slots[slot - 1]?.access !== "open")) return null;
  if (order.rule === "one-way") return say(closingWords(slots, fillsOf(state)));
  if (order.tellAtOnce) return t("desk.desk-state.when-you-move-on-an-answered");
  return null;
}
