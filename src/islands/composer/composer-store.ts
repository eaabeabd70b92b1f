import type { RefusedEntry } from "@/core/desk/desk-view";
import type { CheckAsked, CheckFound } from "@/core/draft/checking";
import type {
  DraftEntry,
  DraftNews,
  DraftReceipt,
  DraftView,
  OtherAuthor,
  StandingPiece,
} from "@/core/draft/draft-view";
import { outlinesTogether } from "@/core/draft/outline";
import {
  type DraftPiece,
  HEAD,
  OUTLINE,
  type OutlinePiece,
  outlineOf,
  PIECES_BEGIN,
  PIECES_END,
  type Pieces,
  placeOfFirst,
  withPieces,
} from "@/core/draft/pieces";
import type { Step } from "@/core/draft/to-put-right";
import type { NumbersDrawn } from "@/core/kinds/numeric/draws";
import { sameValue } from "@/core/same-value";
import type { Instant } from "@/core/time/instants";
import { ask, Refusal, refusalOr } from "@/ui/requests";
import { say, t } from "@/words/t";
import type { HeldEntry } from "../keeping/device-store";
import { Journal } from "../keeping/journal";
import { Keeping } from "../keeping/keeping";
import { isSignedOut, type SaveState, sendingBecomes } from "../keeping/save-words";
import type { SendState } from "../keeping/sender";
import { UndoSteps } from "./undo-steps";

/** It is asked so often what others wrote, in milliseconds. */
const NEWS_EVERY = 4_000;
/** A draft is looked through when nothing was written for so long, in milliseconds. */
const LOOK_AFTER = 250;
/** What is done in one go is sent so long after it, in milliseconds. */
const SEND_AFTER = 400;
/** What is typed after such a pause is undone by itself, in milliseconds. */
const TYPED_APART = 1_200;

/** What one has before one: a piece by its number, or a section by its name. */
export type Here =
  | { readonly kind: "piece"; readonly slot: number }
  | { readonly kind: "section"; readonly id: string };

export interface ComposerState extends SaveState {
  readonly pieces: Pieces;
  readonly here: Here;
  /** What is to be put right, as it was when the draft was looked through last; null: not yet. */
  readonly steps: readonly Step[] | null;
  /** What the drawn numbers of the question here come to. */
  readonly numbers: NumbersDrawn | null;
  /** What can be undone and done again, as names of it. */
  readonly undo: string | null;
  readonly redo: string | null;
  readonly others: readonly OtherAuthor[];
  /** What another wrote in a piece meanwhile, beside what stands here. */
  readonly elsewhere: ReadonlyMap<number, StandingPiece>;
  /** What has just happened, for who cannot see it. */
  readonly told: string;
  readonly problem: string | null;
  readonly signedOut: boolean;
  /** The quiz that it was assigned as. */
  readonly quizId: string | null;
}

const entryIn = (held: HeldEntry): DraftEntry => {
  const { slot, piece, base, revision, device, writtenAt } = held as HeldEntry & DraftEntry;
  return { slot, piece, base, revision, device, writtenAt };
};

const seen = ({ kind, ...rest }: Here): number =>
  kind === "piece" ? (rest as { slot: number }).slot : OUTLINE;

/** Everything that happens in the composer, apart from how it looks. What is written is kept as at the desk. */
export class ComposerStore {
  readonly #listeners = new Set<() => void>();
  readonly #keeping: Keeping<DraftEntry, DraftReceipt>;
  readonly #undo = new UndoSteps();
  /** The version of each piece that this page was written on, and what it held. */
  readonly #versions = new Map<number, number>();
  readonly #held = new Map<number, DraftPiece>();
  readonly #refusals = new Map<number, string>();
  readonly #unchecked = new Map<number, DraftPiece>();
  /** What was changed on this page. */
  readonly #touched = new Set<number>();
  /** Earlier pages of this browser, which left something in its journal. */
  readonly #ownDevices = new Set<string>();
  readonly #clockOffset: number;
  #change: number;
  #state: ComposerState;
  #checker: Worker | null = null;
  #asked = 0;
  #lookTimer: ReturnType<typeof setTimeout> | undefined;
  #typedTimer: ReturnType<typeof setTimeout> | undefined;
  #newsTimer: ReturnType<typeof setTimeout> | undefined;
  #isOpen = false;
  #isPressed = false;
  #waitingForRelease: (() => void)[] = [];

  constructor(readonly view: DraftView) {
    this.#clockOffset = view.serverNow - Date.now();
    this.#change = view.change;
    const pieces = new Map<number, DraftPiece>();
    for (const { slot, piece, version } of view.pieces) {
      pieces.set(slot, piece);
      this.#versions.set(slot, version);
      this.#held.set(slot, piece);
      this.#unchecked.set(slot, piece);
    }
    const subject = `draft ${view.id}`;
    this.#keeping = new Keeping<DraftEntry, DraftReceipt>({
      channel: subject,
      journal: new Journal(subject, entryIn),
      entries: [],
      now: this.#now,
      post: (entries, keepalive) =>
        ask<DraftReceipt>(`${this.path}/pieces`, { body: { entries }, keepalive, limit: 15_000 }),
      content: (slot) => {
        const piece = this.#state.pieces.get(slot);
        return piece ? { piece, base: this.#versions.get(slot) ?? 0 } : null;
      },
      isThere: () => true,
      // What another page writes is refused by the server where it would be overwritten: nothing is taken over in silence.
      isShown: () => false,
      isOpen: () => true,
      differs: () => false,
      onWritten: () => this.#set({ allSaved: false }),
      onArrival: () => {},
      onKeeps: (keepsOnDevice) => this.#set({ keepsOnDevice }),
      onReceipt: (receipt) => this.#received(receipt),
      onSending: (state) => this.#sendingIs(state),
      onRefused: (refused) => this.#refused(refused),
      onOver: () => {},
    });
    const first = placeOfFirst(pieces);
    this.#state = {
      pieces,
      here: { kind: "piece", slot: first ?? HEAD },
      steps: null,
      numbers: null,
      undo: null,
      redo: null,
      others: [],
      elsewhere: new Map(),
      told: "",
      problem: null,
      signedOut: false,
      quizId: view.quizId,
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
  readonly state = (): ComposerState => this.#state;

  get path(): string {
    return `/api/drafts/${this.view.id}`;
  }

  #set(change: Partial<ComposerState>): void {
    this.#state = { ...this.#state, ...change };
    for (const listener of this.#listeners) listener();
  }

  #now = (): Instant => Date.now() + this.#clockOffset;

  /** Takes up work in the browser. Returns how to stop. */
  open(): () => void {
    this.#isOpen = true;
    this.#checker = new Worker(new URL("../../workers/draft-checker.ts", import.meta.url), {
      type: "module",
    });
    this.#checker.onmessage = ({ data }: MessageEvent<CheckFound>) =>
      this.#onceReleased(() => {
        if (data.nth === this.#asked) this.#set({ steps: data.steps, numbers: data.numbers });
      });
    this.#look(0);
    this.#keeping.open();
    void this.#recover();
    this.#newsTimer = setTimeout(() => void this.#news(), 0);
    const leave = () => {
      this.#keeping.writeTyped();
      if (!this.#keeping.isSent) void this.#keeping.send({ keepalive: true });
      const gone = { change: this.#change, device: this.#keeping.device, slot: 0, leaves: true };
      void ask(`${this.path}/news`, { body: gone, keepalive: true }).catch(() => {});
    };
    const seenAgain = () => {
      if (document.visibilityState === "hidden") leave();
      else this.#isBack();
    };
    const back = () => this.#isBack();
    const pressed = () => {
      this.#isPressed = true;
    };
    // After the click that it ends in.
    const released = () => setTimeout(() => this.#released(), 0);
    addEventListener("pointerdown", pressed, true);
    addEventListener("pointerup", released, true);
    addEventListener("pointercancel", released, true);
    document.addEventListener("visibilitychange", seenAgain);
    addEventListener("pagehide", leave);
    addEventListener("online", back);
    return () => {
      this.#isOpen = false;
      clearTimeout(this.#newsTimer);
      clearTimeout(this.#lookTimer);
      document.removeEventListener("visibilitychange", seenAgain);
      removeEventListener("pagehide", leave);
      removeEventListener("online", back);
      removeEventListener("pointerdown", pressed, true);
      removeEventListener("pointerup", released, true);
      removeEventListener("pointercancel", released, true);
      this.#checker?.terminate();
      this.#keeping.writeTyped();
      this.#keeping.close();
    };
  }

  /** What comes by itself may move what is being pressed, and the press would miss it: it waits for the end. */
  #onceReleased(does: () => void): void {
    if (this.#isPressed) this.#waitingForRelease.push(does);
    else does();
  }

  #released(): void {
    this.#isPressed = false;
    const waiting = this.#waitingForRelease;
    this.#waitingForRelease = [];
    for (const does of waiting) does();
  }

  #isBack(): void {
    void this.#keeping.send();
    clearTimeout(this.#newsTimer);
    void this.#news();
  }

  /** What an earlier page left on this device and the server does not have stands on the screen, and goes to it. */
  async #recover(): Promise<void> {
    const { held } = await this.#keeping.recover();
    const left = held
      .filter(({ acknowledged }) => !acknowledged)
      .sort((a, b) => a.writtenAt - b.writtenAt)
      .map(({ slot, piece }) => [slot, piece] as const);
    // On the screen, and not written anew: the server says if they were written on an older state.
    for (const { device } of held) this.#ownDevices.add(device);
    const fresh = left.filter(([slot]) => !this.#touched.has(slot));
    for (const [slot, piece] of fresh) this.#unchecked.set(slot, piece);
    if (fresh.length > 0) {
      this.#set({ pieces: withPieces(this.#state.pieces, fresh) });
      this.#look(0);
    }
    if (!this.#keeping.isSent) this.#set({ allSaved: false });
  }

  /** Signs in again without leaving the page. @throws Refusal with a sentence. */
  async signInAgain(password: string): Promise<void> {
    await ask("/api/sign-in", { body: { email: this.view.email, password } });
    this.#set({ sending: { kind: "idle" }, unreachableSince: null, signedOut: false });
    this.#isBack();
  }

  /** Everything that was written is on the server, or a reason why not is on the screen. */
  async saveNow(): Promise<boolean> {
    this.#keeping.writeTyped();
    await this.#keeping.send();
    return this.#keeping.isSent && this.#refusals.size === 0;
  }

  // Going about.

  go(here: Here): void {
    this.#undo.settle();
    this.#set({ here, problem: null, numbers: null });
    this.#look(0);
  }

  /** A field was left: what was typed in it is kept now, and is a step by itself. */
  fieldLeft(): void {
    this.#undo.settle();
    this.#keeping.writeTyped();
  }

  tell(words: string): void {
    this.#set({ told: words });
  }

  // Writing.

  /** A number for a new piece. */
  newSlot = (): number => {
    for (;;) {
      const slot = PIECES_BEGIN + Math.floor(Math.random() * (PIECES_END - PIECES_BEGIN));
      if (!this.#state.pieces.has(slot)) return slot;
    }
  };

  /** A short name that nothing else here has. @param letter what it begins with */
  newName = (letter: string): string => `${letter}${crypto.randomUUID().replaceAll("-", "").slice(0, 8)}`;

  /**
   * Changes pieces together, as one step that can be undone.
   * @param words what is done, as a name of it
   * @param typedIn the field that is typed into; null: it is done in one go
   */
  change(changed: ReadonlyMap<number, DraftPiece>, words: string, typedIn: string | null = null): void {
    const { pieces, here } = this.#state;
    const real = new Map([...changed].filter(([slot, piece]) => !sameValue(pieces.get(slot), piece)));
    if (real.size === 0) return;
    this.#undo.add({
      words,
      before: new Map([...real.keys()].map((slot) => [slot, pieces.get(slot)])),
      after: real,
      here: seen(here),
      typedIn,
    });
    // What is typed after a pause is another step.
    clearTimeout(this.#typedTimer);
    if (typedIn !== null) this.#typedTimer = setTimeout(() => this.#undo.settle(), TYPED_APART);
    this.#put(real, typedIn !== null);
  }

  undo = (): void => {
    const taken = this.#undo.undo(this.#state.pieces);
    if (!taken) return;
    this.#put(taken.changed);
    this.#after(taken.step.here, t("composer.composer-store.undone", { words: taken.step.words }));
  };

  redo = (): void => {
    const taken = this.#undo.redo(this.#state.pieces);
    if (!taken) return;
    this.#put(taken.changed);
    this.#after(taken.step.here, t("composer.composer-store.done-again", { words: taken.step.words }));
  };

  /** After a step back or forth, what it was about is on the screen. */
  #after(slot: number, told: string): void {
    const isThere = this.#state.pieces.has(slot);
    const here: Here = isThere && slot !== OUTLINE ? { kind: "piece", slot } : this.#state.here;
    this.#set({ here: this.#standing(here), told });
  }

  /** What is before one, or the head where it is not there any more. */
  #standing(here: Here): Here {
    const outline = outlineOf(this.#state.pieces);
    if (here.kind === "section")
      return outline.sections.some(({ id }) => id === here.id) ? here : { kind: "piece", slot: HEAD };
    if (here.slot < PIECES_BEGIN) return here;
    return outline.sections.some(({ questions }) => questions.includes(here.slot))
      ? here
      : { kind: "piece", slot: HEAD };
  }

  #put(changed: ReadonlyMap<number, DraftPiece>, isTyped = false): void {
    for (const [slot, piece] of changed) {
      this.#unchecked.set(slot, piece);
      this.#touched.add(slot);
      this.#refusals.delete(slot);
    }
    this.#set({
      pieces: withPieces(this.#state.pieces, changed),
      allSaved: false,
      ...this.#stepWords(),
      refusals: this.#listRefusals(),
    });
    for (const slot of changed.keys()) {
      if (isTyped) this.#keeping.later(slot);
      else this.#keeping.write(slot, SEND_AFTER);
    }
    this.#look(LOOK_AFTER);
  }

  #stepWords = () => ({
    undo: this.#undo.last?.words ?? null,
    redo: this.#undo.next?.words ?? null,
  });

  /** Has the draft looked through, away from what is typed. */
  #look(after: number): void {
    clearTimeout(this.#lookTimer);
    this.#lookTimer = setTimeout(() => {
      this.#asked += 1;
      const asked: CheckAsked = {
        nth: this.#asked,
        changed: [...this.#unchecked],
        meanings: this.view.unitMeanings,
        numbersOf: this.#state.here.kind === "piece" ? this.#state.here.slot : null,
      };
      this.#unchecked.clear();
      this.#checker?.postMessage(asked);
    }, after);
  }

  // What others write.

  async #news(): Promise<void> {
    if (document.visibilityState === "visible") {
      try {
        const news = await ask<DraftNews>(`${this.path}/news`, {
          body: { change: this.#change, device: this.#keeping.device, slot: seen(this.#state.here) },
          limit: 8_000,
        });
        this.#onceReleased(() => this.#take(news));
      } catch (error) {
        if (error instanceof Refusal && error.status === 401) this.#set({ signedOut: true });
        if (error instanceof Refusal && error.status === 404)
          this.#set({ problem: t("composer.composer-store.it-was-put-away") });
      }
    }
    if (this.#isOpen) this.#newsTimer = setTimeout(() => void this.#news(), NEWS_EVERY);
  }

  /** Takes in what others wrote, where nothing is being written here. What both write is for the save to tell. */
  #take(news: DraftNews): void {
    const changed = new Map<number, DraftPiece>();
    let all = true;
    for (const { slot, piece, version, device, author } of news.pieces) {
      if (device === this.#keeping.device || version <= (this.#versions.get(slot) ?? 0)) continue;
      if (this.#keeping.isTyping(slot) || this.#keeping.isWaiting(slot) || this.#state.elsewhere.has(slot)) {
        all = false;
        continue;
      }
      this.#versions.set(slot, version);
      this.#held.set(slot, piece);
      this.#unchecked.set(slot, piece);
      changed.set(slot, piece);
      this.tell(t("composer.composer-store.wrote", { author }));
    }
    // What could not be taken in is asked for again.
    if (all) this.#change = Math.max(this.#change, news.change);
    if (changed.size === 0) {
      if (!sameValue(news.others, this.#state.others)) this.#set({ others: news.others });
      return;
    }
    this.#set({ pieces: withPieces(this.#state.pieces, changed), others: news.others });
    this.#set({ here: this.#standing(this.#state.here) });
    this.#look(0);
  }

  /** Pieces that the server has changed at this page's wish stand on the screen. */
  adopt(pieces: readonly StandingPiece[]): void {
    for (const { slot, piece, version } of pieces) {
      this.#versions.set(slot, version);
      this.#held.set(slot, piece);
      this.#unchecked.set(slot, piece);
    }
    this.#set({
      pieces: withPieces(
        this.#state.pieces,
        pieces.map(({ slot, piece }) => [slot, piece] as const),
      ),
    });
    this.#set({ here: this.#standing(this.#state.here) });
    this.#look(0);
  }

  /** It was assigned. */
  assigned(quizId: string): void {
    this.#set({ quizId });
  }

  /** Of two states of one piece, the one on the screen, or the other's, shall stand. */
  choose(slot: number, which: "this" | "theirs"): void {
    const standing = this.#state.elsewhere.get(slot);
    const mine = this.#state.pieces.get(slot);
    if (!standing || !mine) return;
    const elsewhere = new Map(this.#state.elsewhere);
    elsewhere.delete(slot);
    this.#refusals.delete(slot);
    this.#versions.set(slot, standing.version);
    this.#held.set(slot, standing.piece);
    this.#set({ elsewhere, refusals: this.#listRefusals() });
    if (which === "this") this.#put(new Map([[slot, mine]]));
    else {
      // What stood here can be had back.
      this.change(new Map([[slot, standing.piece]]), t("composer.composer-store.taking-theirs"));
      if (sameValue(mine, standing.piece)) this.#put(new Map([[slot, standing.piece]]));
    }
  }

  // Keeping asks, and tells.

  #received(receipt: DraftReceipt): void {
    for (const { slot, version } of receipt.saved) {
      this.#versions.set(slot, version);
      const piece = this.#state.pieces.get(slot);
      if (piece && !this.#keeping.isTyping(slot)) this.#held.set(slot, piece);
      this.#refusals.delete(slot);
    }
    const elsewhere = new Map(this.#state.elsewhere);
    for (const standing of receipt.standing) {
      const mine = this.#state.pieces.get(standing.slot);
      if (standing.slot === OUTLINE && mine?.piece === "outline" && standing.piece.piece === "outline") {
        this.#bringTogether(mine, standing);
      } else if (mine && (sameValue(mine, standing.piece) || this.#ownDevices.has(standing.device))) {
        // What stands there is the same, or what this browser itself wrote before.
        this.#versions.set(standing.slot, standing.version);
        this.#held.set(standing.slot, standing.piece);
        if (!sameValue(mine, standing.piece)) this.#keeping.write(standing.slot);
      } else elsewhere.set(standing.slot, standing);
    }
    const isAll = this.#keeping.isSent && !this.#keeping.isTyping() && elsewhere.size === 0;
    this.#set({
      elsewhere,
      allSaved: isAll,
      savedAt: isAll ? receipt.serverNow : this.#state.savedAt,
      unreachableSince: null,
      refusals: this.#listRefusals(),
    });
  }

  /** Two changed the order, or put questions in: both have what they did. */
  #bringTogether(mine: OutlinePiece, standing: StandingPiece): void {
    const base = this.#held.get(OUTLINE);
    const theirs = standing.piece as OutlinePiece;
    const together = base?.piece === "outline" ? outlinesTogether(base, mine, theirs) : theirs;
    this.#versions.set(OUTLINE, standing.version);
    this.#held.set(OUTLINE, theirs);
    this.#put(new Map([[OUTLINE, together]]));
    this.tell(t("composer.composer-store.brought-together", { author: standing.author }));
  }

  #listRefusals = () => [...this.#refusals].map(([slot, sentence]) => ({ slot, sentence }));

  #refused(refused: readonly RefusedEntry[]): void {
    for (const { slot, type, sentence } of refused) {
      const isSettled = type === "written-elsewhere" && !this.#state.elsewhere.has(slot);
      // What was brought together, or is the same on both sides, is on its way again.
      if (isSettled) continue;
      if (type === "number-taken") this.#keeping.write(slot);
      else this.#refusals.set(slot, say(sentence));
    }
    this.#set({ refusals: this.#listRefusals(), allSaved: false });
  }

  #sendingIs(sending: SendState): void {
    const next = sendingBecomes(this.#state, sending, this.#now);
    if (next) this.#set({ ...next, signedOut: isSignedOut(this.#state.signedOut, sending) });
  }

  /** Says why something could not be done. */
  fail(error: unknown): void {
    this.#set({ problem: refusalOr(error, t("composer.composer-store.the-server-cannot-be-reached")) });
  }
}
