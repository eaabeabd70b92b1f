import type { SaveReceipt } from "@/core/desk/desk-view";
import type { JournalEntry } from "@/core/journal/merge";
import { type Answer, fillOf, readAnswer, summaryOf } from "@/core/kinds/answering";
import type { Instant } from "@/core/time/instants";
import { say, t } from "@/words/t";
import type { Arrival } from "../keeping/arrivals";
import type { PendingFile } from "../keeping/file-queue";
import type { Keeping, Recovered } from "../keeping/keeping";
import type { DeskScreen } from "./desk-screen";
import { type Elsewhere, type SlotOnScreen, slotAgain } from "./desk-state";

/** How the desk's answers are kept. */
export type DeskKeeping = Keeping<JournalEntry, SaveReceipt>;

/** What a key changed is quoted up to this many characters. */
const LONGEST_QUOTE = 60;

/** What is answered in the slots: what the student does, and what others wrote there. */
export class Answers {
  constructor(
    private readonly screen: DeskScreen,
    private readonly keeping: DeskKeeping,
  ) {}

  // What the student does.

  /** A pick, or anything that is complete as it is: journalled and sent at once. */
  choose(slot: number, answer: Answer | null): void {
    this.#change(slot, { answer });
    this.keeping.write(slot);
  }

  /** Typing: on the screen at once, in the journal at the next pause. */
  type(slot: number, answer: Answer | null): void {
    this.#change(slot, { answer });
    this.keeping.later(slot);
  }

  layRibbon(slot: number): void {
    this.#change(slot, { ribbon: !this.screen.slot(slot).ribbon });
    this.keeping.write(slot);
  }

  ruleOut(slot: number, option: string): void {
    const { ruledOut } = this.screen.slot(slot);
    const without = ruledOut.filter((each) => each !== option);
    this.#change(slot, { ruledOut: without.length < ruledOut.length ? without : [...ruledOut, option] });
    this.keeping.write(slot);
  }

  /** A single key changes an answer: what changed is said, with a way back. */
  byKey(slot: number, letter: string, change: () => void): void {
    const before = this.screen.slot(slot).answer;
    const had = JSON.stringify(before);
    change();
    const { question, answer } = this.screen.slot(slot);
    if (!question || JSON.stringify(answer) === had) return;
    const words = say(summaryOf(question, answer));
    const what =
      words === ""
        ? t("desk.answers.it-is-empty-now")
        : t("desk.answers.picked", {
            words: words.length > LONGEST_QUOTE ? `${words.slice(0, LONGEST_QUOTE)} …` : words,
          });
    this.screen.setSlot(slot, {
      ...this.screen.slot(slot),
      keyed: { words: t("desk.answers.by-key", { letter, what }), before },
    });
  }

  undoKey(slot: number): void {
    const { keyed } = this.screen.slot(slot);
    if (keyed) this.choose(slot, keyed.before);
  }

  /** Takes the other one of two answers: what another device replaced, or what it wrote. The two change places. */
  takeOther(slot: number): void {
    const { elsewhere } = this.screen.slot(slot);
    if (!elsewhere || elsewhere.state === "waits") return;
    this.choose(slot, elsewhere.other);
    this.keepThis(slot);
  }

  /** What stands here is what shall stand: nothing more is said of the other. */
  keepThis(slot: number): void {
    this.screen.setSlot(slot, { ...this.screen.slot(slot), elsewhere: null });
  }

  /** A file that has arrived joins the answer of its upload question; returns whether it belongs to one. */
  takeFile(file: PendingFile): boolean {
    const slot = this.screen.state().slots[file.slot - 1];
    if (slot?.question?.kind !== "upload") return false;
    const before = slot.answer && "files" in slot.answer ? slot.answer : { files: [], text: "" };
    const { id, name, size } = file;
    if (!before.files.some((each) => each.id === id))
      this.choose(file.slot, { ...before, files: [...before.files, { id, name, size }] });
    return true;
  }

  #change(slot: number, change: Partial<Pick<SlotOnScreen, "answer" | "ribbon" | "ruledOut">>): void {
    if (!this.screen.mayChange(slot)) return;
    const before = this.screen.slot(slot);
    const keyed = "answer" in change ? null : before.keyed;
    const changed = { ...before, ...change, saved: false, keyed };
    this.screen.setSlot(slot, {
      ...changed,
      fill: changed.question ? fillOf(changed.question, changed.answer) : changed.fill,
    });
    // What could not be done before may be possible now: it is not said any more.
    this.screen.set({ allSaved: false, problem: null });
  }

  // What keeping asks of the screen, and tells it.

  content(slot: number): Pick<SlotOnScreen, "answer" | "ribbon" | "ruledOut"> | null {
    if (!this.screen.mayChange(slot)) return null;
    const { answer, ribbon, ruledOut } = this.screen.slot(slot);
    return { answer, ribbon, ruledOut };
  }

  differs(entry: JournalEntry): boolean {
    const { question, answer } = this.screen.slot(entry.slot);
    return question !== null && JSON.stringify(answerIn(question, entry)) !== JSON.stringify(answer);
  }

  /** What another wrote takes the place of what stands here, which is said and can be taken back; or it is told. */
  arrived(
    entry: JournalEntry,
    arrival: Exclude<Arrival, "known">,
    before: JournalEntry = { ...entry, answer: null },
  ): void {
    if (arrival !== "shown") {
      this.#tellElsewhere(entry, entry.writtenAt, arrival);
      return;
    }
    const slot = this.screen.slot(entry.slot);
    const saved = !this.keeping.isWaiting(entry.slot);
    this.screen.setSlot(entry.slot, slotAgain(slot, progressOf(slot), entry, saved, slot.question));
    this.#tellElsewhere(before, entry.writtenAt, "shown");
  }

  /** Shows what an earlier page left in the journal of this device. */
  recovered({ held, before }: Recovered<JournalEntry>, allSaved: () => boolean): void {
    this.screen.set({
      slots: this.screen.state().slots.map((slot, i) => {
        const entry = this.keeping.entries.get(i + 1);
        if (!slot.question || this.keeping.isTyping(i + 1)) return slot;
        return slotAgain(slot, progressOf(slot), entry, !this.keeping.isWaiting(i + 1), slot.question);
      }),
      allSaved: allSaved(),
    });
    // Nothing changes places without a word: what another device wrote later than what was left on this one, and what
    // was left on this one and is later than what another device wrote.
    const ours = new Set(held.map(({ device }) => device));
    for (const entry of held) {
      const stands = this.keeping.entries.get(entry.slot);
      const was = before.get(entry.slot);
      if (!stands || entry.acknowledged || !this.screen.isOpen(entry.slot)) continue;
      if (stands === was && !ours.has(stands.device)) this.#tellElsewhere(entry, stands.writtenAt, "shown");
      else if (stands === entry && was && !ours.has(was.device))
        this.#tellElsewhere(was, was.writtenAt, "passed");
    }
  }

  /** Says what another device did, where the two answers differ. @param other the entry that does not stand here. */
  #tellElsewhere(other: JournalEntry, at: Instant, state: Elsewhere["state"]): void {
    const slot = this.screen.slot(other.slot);
    if (!slot.question) return;
    const answer = answerIn(slot.question, other);
    if (JSON.stringify(answer) === JSON.stringify(slot.answer)) return;
    const words = say(summaryOf(slot.question, answer));
    this.screen.setSlot(other.slot, { ...slot, elsewhere: { at, state, other: answer, words } });
  }
}

function answerIn(question: NonNullable<SlotOnScreen["question"]>, entry: JournalEntry): Answer | null {
  const reading = readAnswer(question, entry.answer);
  return reading.ok ? reading.answer : null;
}

/** What the server said of a slot, again. */
const progressOf = (slot: SlotOnScreen) => ({
  access: slot.access,
  question: slot.question,
  fill: slot.fill,
  told: slot.told,
  tries: slot.tries,
  isDeclaration: slot.isDeclaration,
});
