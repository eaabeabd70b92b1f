import type { RefusedEntry } from "@/core/desk/desk-view";
import type {
  AnswerView,
  Holder,
  MarkingEntry,
  MarkingReceipt,
  PileLine,
  PileView,
  RemarkLine,
  StandingWork,
} from "@/core/desk/room-view";
import { type HandWork, NO_WORK } from "@/core/marking/hand-work";
import type { Instant } from "@/core/time/instants";
import { ask, Refusal, refusalOr } from "@/ui/requests";
import { say, t } from "@/words/t";
import type { HeldEntry } from "../keeping/device-store";
import { Journal } from "../keeping/journal";
import { Keeping } from "../keeping/keeping";
import { isSignedOut, type SaveState, sendingBecomes } from "../keeping/save-words";
import type { SendState } from "../keeping/sender";
import { answerState } from "./marking-of";
import { keyOf, nextWaiting, type PileFilter, type Place } from "./pile-order";

/** A pick is sent this long after it, so that a rubric goes out in one request; in milliseconds. */
const PICK_SEND = 900;
/** A claim is said again so often while its answer is on the screen, in milliseconds. */
const CLAIM_AGAIN = 40_000;
/** So many answers after this one are loaded before they are asked for. */
const AHEAD = 2;

type MarkingKeeping = Keeping<MarkingEntry, MarkingReceipt>;

/** Something that can be undone: what stood before, and what was done. */
interface Step {
  readonly before: HandWork;
  readonly words: string;
}

export interface RoomState extends SaveState {
  readonly pile: PileView;
  readonly filter: PileFilter;
  readonly here: Place | null;
  /** The answer on the screen; null while it is on its way. */
  readonly answer: AnswerView | null;
  /** What is written to it, as it stands on the screen. */
  readonly work: HandWork;
  /** What is written to the paper as a whole. */
  readonly whole: HandWork;
  /** Who else has it open: it can be read, and taken over. */
  readonly holder: Holder | null;
  /** Whether the answer is another than the one that the work on the screen was written of. */
  readonly answerChanged: boolean;
  /** What another wrote here meanwhile, beside what stands on the screen; null: nothing. */
  readonly elsewhere: StandingWork | null;
  readonly undo: Step | null;
  /** Why something could not be done. */
  readonly problem: string | null;
  readonly signedOut: boolean;
}

/** The room as its page makes it. */
export interface RoomTerms {
  readonly pile: PileView;
  readonly here: Place | null;
  readonly answer: AnswerView | null;
  readonly email: string;
  readonly zone: string;
}

const entryIn = (held: HeldEntry): MarkingEntry => {
  const { slot, work, base, answerDigest, revision, device, writtenAt } = held as HeldEntry & MarkingEntry;
  return { slot, work, base, answerDigest, revision, device, writtenAt };
};

/** Everything that happens in the marking room, apart from how it looks. What is written is kept as at the desk. */
export class RoomStore {
  readonly #listeners = new Set<() => void>();
  readonly #answers = new Map<string, Promise<AnswerView>>();
  /** The answers that are here, to be put on the screen at once. */
  readonly #loaded = new Map<string, AnswerView>();
  readonly #open = new Map<number, MarkingKeeping>();
  /** What this device holds of a paper is taken up. */
  readonly #recovered = new Map<number, Promise<void>>();
  readonly #works = new Map<string, HandWork>();
  /** What was changed on this page. */
  readonly #touched = new Set<string>();
  readonly #versions = new Map<string, number>();
  readonly #holders = new Map<string, Holder | null>();
  readonly #elsewhere = new Map<string, StandingWork>();
  /** Answers that were found to be other than the ones that were marked here. */
  readonly #changed = new Set<string>();
  readonly #refusals = new Map<string, string>();
  readonly #steps = new Map<string, Step[]>();
  #state: RoomState;
  #claiming: ReturnType<typeof setInterval> | undefined;
  readonly #clockOffset: number;

  constructor(readonly terms: RoomTerms) {
    const { pile, here, answer } = terms;
    this.#clockOffset = pile.serverNow - (typeof performance === "undefined" ? 0 : Date.now());
    if (here && answer) this.#take(here, answer);
    const first = pile.questions[0]?.id ?? "";
    this.#state = {
      pile,
      filter: { question: answer?.question ?? first, show: "all", section: null },
      here,
      answer,
      work: answer?.standing?.work ?? NO_WORK,
      whole: NO_WORK,
      holder: answer?.holder ?? null,
      answerChanged: false,
      elsewhere: null,
      undo: null,
      problem: null,
      signedOut: false,
      sending: { kind: "idle" },
      unreachableSince: null,
      savedAt: null,
      allSaved: true,
      keepsOnDevice: true,
      refusals: [],
      files: [],
    };
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };
  readonly state = (): RoomState => this.#state;

  #set(change: Partial<RoomState>): void {
    this.#state = { ...this.#state, ...change };
    for (const listener of this.#listeners) listener();
  }

  #now = (): Instant => Date.now() + this.#clockOffset;

  /** Takes up work in the browser. Returns how to stop. */
  open(): () => void {
    const { here } = this.terms;
    if (here) void this.show(here);
    this.#claiming = setInterval(() => void this.#claim(false), CLAIM_AGAIN);
    const leave = () => this.#leave();
    const seen = () => (document.visibilityState === "hidden" ? leave() : this.#isBack());
    const back = () => this.#isBack();
    document.addEventListener("visibilitychange", seen);
    addEventListener("pagehide", leave);
    addEventListener("online", back);
    return () => {
      clearInterval(this.#claiming);
      document.removeEventListener("visibilitychange", seen);
      removeEventListener("pagehide", leave);
      removeEventListener("online", back);
      for (const keeping of this.#open.values()) {
        keeping.writeTyped();
        keeping.close();
      }
    };
  }

  #leave(): void {
    for (const keeping of this.#open.values()) {
      keeping.writeTyped();
      if (!keeping.isSent) void keeping.send({ keepalive: true });
    }
  }

  #isBack(): void {
    for (const keeping of this.#open.values()) void keeping.send();
    void this.#claim(false);
  }

  /** Signs in again without leaving the room. @throws Refusal with a sentence. */
  async signInAgain(password: string): Promise<void> {
    await ask("/api/sign-in", { body: { email: this.terms.email, password } });
    this.#set({ sending: { kind: "idle" }, unreachableSince: null, signedOut: false });
    this.#isBack();
  }

  // The pile.

  setFilter(change: Partial<PileFilter>): void {
    this.#set({ filter: { ...this.#state.filter, ...change } });
  }

  /** Whether names are hidden, and the order of the pile: what is loaded is loaded again, as it may be seen then. */
  async setView(change: { readonly namesHidden?: boolean; readonly byStudent?: boolean }): Promise<void> {
    const { namesHidden, byStudent } = this.#state.pile;
    try {
      const pile = await ask<PileView>(`/api/quizzes/${this.#state.pile.quizId}/pile`, {
        body: { namesHidden, byStudent, ...change },
      });
      this.#answers.clear();
      this.#loaded.clear();
      this.#set({ pile });
      if (this.#state.here) await this.show(this.#state.here);
    } catch (error) {
      this.#fail(error);
    }
  }

  /** Reads the pile again, for what others have done meanwhile. */
  async readPile(): Promise<void> {
    try {
      this.#set({ pile: await ask<PileView>(`/api/quizzes/${this.#state.pile.quizId}/pile`) });
    } catch (error) {
      this.#fail(error);
    }
  }

  get #path(): string {
    return `/api/quizzes/${this.#state.pile.quizId}/papers`;
  }

  #fail(error: unknown): void {
    this.#set({ problem: refusalOr(error, t("marking.room-store.the-server-cannot-be-reached")) });
  }

  // One answer.

  #take(place: Place, answer: AnswerView): void {
    this.#answers.set(keyOf(place), Promise.resolve(answer));
    this.#loaded.set(keyOf(place), answer);
  }

  #fetch(place: Place): Promise<AnswerView> {
    const key = keyOf(place);
    const known = this.#answers.get(key);
    if (known) return known;
    const device = this.#open.get(place.paper)?.device;
    const asked = ask<AnswerView>(
      `${this.#path}/${place.paper}/${place.slot}${device ? `?device=${device}` : ""}`,
    );
    this.#answers.set(key, asked);
    asked
      .then((answer) => {
        if (this.#answers.get(key) === asked) this.#loaded.set(key, answer);
      })
      .catch(() => this.#answers.delete(key));
    return asked;
  }

  /** Puts an answer on the screen: at once, if it is here. Until it is, nothing can be written. */
  async show(place: Place): Promise<void> {
    const before = this.#state.here;
    if (before && keyOf(before) !== keyOf(place)) this.#letGo(before);
    this.#set({
      here: place,
      answer: null,
      work: NO_WORK,
      problem: null,
      answerChanged: false,
      elsewhere: null,
      undo: null,
      holder: null,
    });
    history.replaceState(null, "", `?paper=${place.paper}&slot=${place.slot}`);
    const loaded = this.#loaded.get(keyOf(place));
    if (loaded) this.#begin(place, loaded);
    try {
      const answer = loaded ?? (await this.#fetch(place));
      if (!loaded && this.#isHere(place)) this.#begin(place, answer);
      await this.#recovered.get(place.paper);
      if (!this.#isHere(place)) return;
      this.#refresh(place, answer);
      await this.#claim(false);
      // Another page of one's own, perhaps this one before a reload, does not keep one out.
      if (this.#isHere(place) && this.#state.holder?.isSelf) await this.#claim(true);
      this.#loadAhead();
    } catch (error) {
      if (this.#isHere(place)) this.#fail(error);
    }
  }

  /** Shows an answer, and begins to keep what is written to its paper. */
  #begin(place: Place, answer: AnswerView): void {
    this.#takeStanding(place.paper, answer);
    this.#keep(place.paper);
    this.#refresh(place, answer);
  }

  #isHere = (place: Place): boolean => this.#state.here !== null && keyOf(this.#state.here) === keyOf(place);

  /** What stands in an answer, put on the screen. */
  #refresh(place: Place, answer: AnswerView): void {
    const key = keyOf(place);
    const refused = this.#refusals.get(key);
    this.#set({
      answer,
      filter: { ...this.#state.filter, question: answer.question },
      work: this.#works.get(key) ?? answer.standing?.work ?? NO_WORK,
      whole: this.#works.get(keyOf({ paper: place.paper, slot: 0 })) ?? NO_WORK,
      holder: this.#holders.get(key) ?? answer.holder,
      elsewhere: this.#elsewhere.get(key) ?? null,
      answerChanged: this.#changed.has(key),
      undo: this.#steps.get(key)?.at(-1) ?? null,
      problem: refused ?? null,
    });
  }

  /** The next answers that await are loaded before they are asked for. */
  #loadAhead(): void {
    let place = this.#state.here;
    for (let i = 0; i < AHEAD && place; i += 1) {
      const next = nextWaiting(this.#state, place);
      if (!next) return;
      void this.#fetch(next).catch(() => {});
      place = next;
    }
  }

  /** What the server holds of an answer is shown, unless something newer is being written here. */
  #takeStanding(paper: number, { slot, standing }: AnswerView): void {
    const key = keyOf({ paper, slot });
    if (this.#versions.has(key) || !standing) return;
    this.#versions.set(key, standing.version);
    if (!this.#works.has(key)) this.#works.set(key, standing.work);
  }

  /** What keeps a paper: made once for each, at once; what this device holds of it follows. */
  #keep(paper: number): void {
    if (this.#open.has(paper)) return;
    const { quizId } = this.#state.pile;
    const subject = `marking ${quizId} ${paper}`;
    const keeping: MarkingKeeping = new Keeping<MarkingEntry, MarkingReceipt>({
      channel: subject,
      journal: new Journal(subject, entryIn),
      entries: [],
      now: this.#now,
      post: (entries, keepalive) => this.#post(paper, entries, keepalive),
      content: (slot) => {
        const key = keyOf({ paper, slot });
        const work = this.#works.get(key);
        const answerDigest = this.#loaded.get(key)?.answerDigest ?? "";
        return work ? { work, base: this.#versions.get(key) ?? 0, answerDigest } : null;
      },
      isThere: () => true,
      // What another page writes is refused by the server where it would be overwritten: nothing is taken over in silence.
      isShown: () => false,
      isOpen: () => true,
      differs: () => false,
      onWritten: () => this.#set({ allSaved: false }),
      onArrival: () => {},
      onKeeps: (keepsOnDevice) => this.#set({ keepsOnDevice }),
      onReceipt: (receipt) => this.#received(paper, receipt),
      onSending: (state) => this.#sendingIs(state),
      onRefused: (refused) => this.#refused(paper, refused),
      onOver: () => {},
    });
    this.#open.set(paper, keeping);
    keeping.open();
    this.#recovered.set(paper, this.#recover(paper, keeping));
  }

  /** What an earlier page left on this device and the server does not have stands on the screen, and goes to it. */
  async #recover(paper: number, keeping: MarkingKeeping): Promise<void> {
    const { held } = await keeping.recover();
    for (const entry of [...held].sort((a, b) => a.writtenAt - b.writtenAt)) {
      const key = keyOf({ paper, slot: entry.slot });
      // What was begun here meanwhile stays on the screen; the server says if it was written on an older state.
      if (!entry.acknowledged && !this.#touched.has(key)) this.#works.set(key, entry.work);
    }
    if (!keeping.isSent) this.#set({ allSaved: false });
    if (!this.#versions.has(keyOf({ paper, slot: 0 }))) await this.#readWhole(paper);
  }

  /** What was written to the paper as a whole. */
  async #readWhole(paper: number): Promise<void> {
    const key = keyOf({ paper, slot: 0 });
    try {
      const { version, work } = await ask<{ version: number; work: HandWork | null }>(
        `${this.#path}/${paper}/whole`,
      );
      this.#versions.set(key, version);
      if (work && !this.#works.has(key)) this.#works.set(key, work);
    } catch {
      // Without it the words on the whole paper begin empty; a save on an older state is refused, and shown.
    }
  }

  /** Says that the answer on the screen is this page's to write to; or takes it over. */
  async #claim(takeOver: boolean): Promise<void> {
    const { here } = this.#state;
    const keeping = here && this.#open.get(here.paper);
    if (!here || !keeping || document.visibilityState === "hidden") return;
    const key = keyOf(here);
    try {
      const { holder, version } = await ask<{ holder: Holder | null; version: number }>(
        `${this.#path}/${here.paper}/claim`,
        { body: { slot: here.slot, device: keeping.device, takeOver }, limit: 8_000 },
      );
      this.#holders.set(key, holder);
      // What was loaded before may be older than what stands now.
      if (
        version > (this.#versions.get(key) ?? 0) &&
        !keeping.isWaiting(here.slot) &&
        !keeping.isTyping(here.slot)
      ) {
        this.#answers.delete(key);
        this.#loaded.delete(key);
        this.#versions.delete(key);
        this.#works.delete(key);
        const answer = await this.#fetch(here);
        this.#takeStanding(here.paper, answer);
        if (this.#isHere(here)) this.#refresh(here, answer);
      }
      if (this.#isHere(here)) this.#set({ holder });
    } catch (error) {
      if (error instanceof Refusal && error.status === 401) this.#set({ signedOut: true });
    }
  }

  takeOver = (): Promise<void> => this.#claim(true);

  #letGo({ paper, slot }: Place): void {
    const keeping = this.#open.get(paper);
    if (!keeping) return;
    keeping.writeTyped();
    void keeping
      .send()
      .then(() =>
        ask(`${this.#path}/${paper}/claim`, { body: { slot, device: keeping.device, leave: true } }),
      )
      .catch(() => {});
  }

  // Writing.

  get mayWrite(): boolean {
    const { holder, answer, here } = this.#state;
    return holder === null && answer !== null && here !== null && keyOf(answer) === keyOf(here);
  }

  /** Changes what is written to the answer on the screen. @param words what is done, for its undoing; null: as typed */
  change(next: HandWork, words: string | null): void {
    const { here, work } = this.#state;
    if (!here || !this.mayWrite) return;
    const key = keyOf(here);
    const steps = this.#steps.get(key) ?? [];
    const last = steps.at(-1);
    // What is typed into one field is one step.
    const typed = t("marking.room-store.typing");
    if (words !== null || last?.words !== typed) steps.push({ before: work, words: words ?? typed });
    this.#steps.set(key, steps);
    this.#put(here, next, words === null);
  }

  /** Changes what is written to the paper as a whole. */
  changeWhole(next: HandWork): void {
    const { here } = this.#state;
    if (!here || !this.mayWrite) return;
    const place = { paper: here.paper, slot: 0 };
    this.#works.set(keyOf(place), next);
    this.#touched.add(keyOf(place));
    this.#set({ whole: next });
    this.#open.get(here.paper)?.later(0);
    this.#set({ allSaved: false });
  }

  #put(place: Place, next: HandWork, isTyped: boolean): void {
    const key = keyOf(place);
    this.#works.set(key, next);
    this.#touched.add(key);
    this.#refusals.delete(key);
    this.#changed.delete(key);
    const keeping = this.#open.get(place.paper);
    if (isTyped) keeping?.later(place.slot);
    else keeping?.write(place.slot, PICK_SEND);
    this.#set({
      work: next,
      undo: this.#steps.get(key)?.at(-1) ?? null,
      allSaved: false,
      problem: null,
      answerChanged: false,
      refusals: this.#listRefusals(),
    });
    this.#updateLine(place, next);
  }

  /** Takes the last change back. */
  undo = (): void => {
    const { here } = this.#state;
    if (!here || !this.mayWrite) return;
    const step = this.#steps.get(keyOf(here))?.pop();
    if (step) this.#put(here, step.before, false);
  };

  /** What stands on the screen holds for the answer as it is now, too. */
  stillHolds = (): void => {
    const { here, work } = this.#state;
    if (here && this.mayWrite) this.#put(here, work, false);
  };

  /** The answer is another than the one that was marked here: it is shown as it is now, and nothing is saved until that was seen. */
  async #answerChanged(place: Place): Promise<void> {
    const key = keyOf(place);
    this.#changed.add(key);
    this.#answers.delete(key);
    this.#loaded.delete(key);
    try {
      const answer = await this.#fetch(place);
      this.#loaded.set(key, answer);
      if (this.#isHere(place)) this.#refresh(place, answer);
    } catch (error) {
      if (this.#isHere(place)) this.#fail(error);
    }
  }

  /** Of two states of one answer, the one on the screen, or the other's, shall stand. */
  choose(which: "this" | "theirs"): void {
    const { here, elsewhere } = this.#state;
    if (!here || !elsewhere) return;
    const key = keyOf(here);
    this.#versions.set(key, elsewhere.version);
    this.#elsewhere.delete(key);
    this.#refusals.delete(key);
    const mine = this.#works.get(key) ?? NO_WORK;
    this.#set({ elsewhere: null, refusals: this.#listRefusals() });
    if (which === "theirs") {
      this.#steps.set(key, [
        ...(this.#steps.get(key) ?? []),
        { before: mine, words: t("marking.room-store.what-stood-here") },
      ]);
    }
    void this.#claim(true).then(() => this.#put(here, which === "this" ? mine : elsewhere.work, false));
  }

  async saveNow(): Promise<void> {
    for (const keeping of this.#open.values()) {
      keeping.writeTyped();
      await keeping.send();
    }
  }

  /** The pile's line of an answer follows what is written to it. */
  #updateLine(place: Place, work: HandWork): void {
    const { answer, pile } = this.#state;
    if (!answer) return;
    const after = lineAfter(answer, work);
    this.#set({
      pile: {
        ...pile,
        lines: pile.lines.map((line) => (keyOf(line) === keyOf(place) ? { ...line, ...after(line) } : line)),
      },
    });
  }

  // Keeping asks, and tells.

  #post(paper: number, entries: readonly MarkingEntry[], keepalive: boolean): Promise<MarkingReceipt> {
    return ask<MarkingReceipt>(`${this.#path}/${paper}/marking`, {
      body: { entries },
      keepalive,
      limit: 10_000,
    });
  }

  #received(paper: number, receipt: MarkingReceipt): void {
    for (const { slot, version } of receipt.saved) {
      const key = keyOf({ paper, slot });
      this.#versions.set(key, version);
      this.#refusals.delete(key);
    }
    for (const { slot, ...stands } of receipt.standing) this.#elsewhere.set(keyOf({ paper, slot }), stands);
    const allSaved = this.#isAllSaved;
    this.#set({
      allSaved,
      savedAt: allSaved ? receipt.serverNow : this.#state.savedAt,
      unreachableSince: null,
      refusals: this.#listRefusals(),
    });
  }

  get #isAllSaved(): boolean {
    return [...this.#open.values()].every((keeping) => keeping.isSent && !keeping.isTyping());
  }

  #listRefusals = () =>
    [...this.#refusals].map(([key, sentence]) => ({ slot: Number(key.split(" ")[1]), sentence }));

  #refused(paper: number, refused: readonly RefusedEntry[]): void {
    for (const { slot, type, sentence } of refused) {
      const place = { paper, slot };
      if (type === "number-taken") this.#open.get(paper)?.write(slot);
      else this.#refusals.set(keyOf(place), say(sentence));
      if (this.#isHere(place)) {
        const elsewhere = this.#elsewhere.get(keyOf(place)) ?? null;
        this.#set({ elsewhere, problem: elsewhere ? null : say(sentence) });
        if (type === "held") void this.#claim(false);
      }
      if (type === "answer-changed") void this.#answerChanged(place);
    }
    this.#set({ refusals: this.#listRefusals(), allSaved: false });
  }

  #sendingIs(sending: SendState): void {
    const next = sendingBecomes(this.#state, sending, this.#now);
    if (next) this.#set({ ...next, signedOut: isSignedOut(this.#state.signedOut, sending) });
  }

  // Remarks.

  async remarks(change: {
    readonly keep?: { readonly short: string; readonly text: string; readonly shared: boolean };
    readonly used?: string;
    readonly remove?: string;
  }): Promise<void> {
    const { pile } = this.#state;
    const remarks = await ask<RemarkLine[]>(`/api/quizzes/${pile.quizId}/remarks`, { body: change });
    this.#set({ pile: { ...this.#state.pile, remarks } });
  }
}

/** How a line of the pile is after a change of what is written. */
function lineAfter(answer: AnswerView, work: HandWork): (line: PileLine) => Partial<PileLine> {
  return (line) => {
    const { state, marks } = answerState(answer, work);
    const wasReturned = line.state === "returned" || line.state === "changed";
    return { state: wasReturned ? "changed" : state, marks };
  };
}
