import {
  asOwn,
  type BankChoice,
  type BankQuestion,
  bankFollowed,
  bankPictures,
  linkedPiece,
} from "@/core/draft/bank";
import { blankQuestion } from "@/core/draft/blank";
import {
  movedBy,
  type OutlinePlace,
  placeOf,
  sectionMovedBy,
  withoutQuestion,
  withQuestionAt,
} from "@/core/draft/outline";
import {
  type DraftPiece,
  OUTLINE,
  type OutlineSection,
  outlineOf,
  type Pieces,
  picturesOf,
  questionOf,
} from "@/core/draft/pieces";
import type { KindName } from "@/core/kinds/answering";
import { fieldsOf } from "@/core/kinds/fields";
import { marking, type Question } from "@/core/kinds/marking";
import type { Section } from "@/core/quiz/quiz-file";
import { t } from "@/words/t";
import type { ComposerStore, Here } from "./composer-store";

const isBare = ({ title, stimulus, draw }: OutlineSection): boolean =>
  !title?.trim() && stimulus === undefined && draw === undefined;

/** What can be done with the questions and sections of a draft; each is one step that can be undone. */
export class DraftDeeds {
  constructor(private readonly store: ComposerStore) {}

  get #pieces(): Pieces {
    return this.store.state().pieces;
  }

  /** Where something new is put: after the question that one has before one, or at the end of its section. */
  #nextPlace(): OutlinePlace {
    const { here } = this.store.state();
    const outline = outlineOf(this.#pieces);
    if (here.kind === "section") {
      const section = outline.sections.find(({ id }) => id === here.id);
      return { section: here.id, at: section?.questions.length ?? 0 };
    }
    const place = placeOf(outline, here.slot);
    if (place) return { ...place, at: place.at + 1 };
    const last = outline.sections.at(-1);
    return { section: last?.id ?? this.store.newName("s"), at: last?.questions.length ?? 0 };
  }

  /** Puts new questions in, one after the other, and goes to the first. */
  put(questions: readonly Question[], words: string, pictures: readonly DraftPiece[] = []): void {
    const changed = new Map<number, DraftPiece>();
    let outline = outlineOf(this.#pieces);
    const place = this.#nextPlace();
    const slots = questions.map((question, i) => {
      const slot = this.store.newSlot();
      changed.set(slot, { piece: "question", question });
      outline = withQuestionAt(outline, slot, { ...place, at: place.at + i });
      return slot;
    });
    for (const piece of pictures) changed.set(this.store.newSlot(), piece);
    changed.set(OUTLINE, outline);
    this.store.change(changed, words);
    if (slots[0] !== undefined) this.store.go({ kind: "piece", slot: slots[0] });
  }

  /** Changes a question; one that followed the bank is this quiz's own from then on. */
  changeQuestion(
    slot: number,
    question: Question,
    words: string,
    typedIn: string | null = null,
    beside: readonly (readonly [number, DraftPiece])[] = [],
  ): void {
    const held = this.#pieces.get(slot);
    const bank = held?.piece === "question" ? asOwn(held.bank) : undefined;
    this.store.change(new Map([...beside, [slot, linkedPiece(question, bank)]]), words, typedIn);
  }

  /** Puts questions of the bank in, to follow it, or as this quiz's own; goes to the first. */
  putFromBank(questions: readonly BankQuestion[], follows: boolean): void {
    const changed = new Map<number, DraftPiece>();
    let outline = outlineOf(this.#pieces);
    const place = this.#nextPlace();
    const slots = questions.map(({ id, version, question }, i) => {
      const slot = this.#freeSlot(changed);
      const own = { ...question, id: this.store.newName("q") };
      changed.set(slot, linkedPiece(own, { id, version, follows }));
      outline = withQuestionAt(outline, slot, { ...place, at: place.at + i });
      return slot;
    });
    for (const [slot, picture] of bankPictures(this.#pieces, questions, () => this.#freeSlot(changed)))
      changed.set(slot, picture);
    changed.set(OUTLINE, outline);
    this.store.change(changed, t("composer.draft-deeds.taking-from-the-bank"));
    if (slots[0] !== undefined) this.store.go({ kind: "piece", slot: slots[0] });
  }

  /** Lets a section draw from a topic of the bank, or from none; with the questions that there are now. */
  drawFromBank(id: string, choice: BankChoice | undefined, bank: readonly BankQuestion[]): void {
    const outline = outlineOf(this.#pieces);
    const sections = outline.sections.map((each) => {
      if (each.id !== id) return each;
      const { bank: _, ...rest } = each;
      return choice ? { ...rest, draw: rest.draw ?? 1, bank: choice } : rest;
    });
    const next: DraftPiece = { ...outline, sections };
    const taken = new Map<number, DraftPiece>();
    const pieces = new Map(this.#pieces).set(OUTLINE, next);
    const followed = choice ? bankFollowed(pieces, bank, () => this.#freeSlot(taken)) : taken;
    this.store.change(
      new Map([[OUTLINE, next], ...followed]),
      t("composer.draft-deeds.drawing-from-the-bank"),
    );
  }

  /** A question has again what the bank has. */
  followAgain(slot: number, bank: BankQuestion): void {
    const held = this.#pieces.get(slot);
    if (held?.piece !== "question") return;
    const changed = new Map<number, DraftPiece>();
    for (const [at, picture] of bankPictures(this.#pieces, [bank], () => this.#freeSlot(changed)))
      changed.set(at, picture);
    const question = { ...bank.question, id: held.question.id };
    changed.set(slot, linkedPiece(question, { id: bank.id, version: bank.version, follows: true }));
    this.store.change(changed, t("composer.draft-deeds.following-again"));
  }

  /** A number that no piece has, and none that is being put in. */
  #freeSlot(taken: ReadonlyMap<number, DraftPiece>): number {
    let slot = this.store.newSlot();
    while (taken.has(slot)) slot = this.store.newSlot();
    return slot;
  }

  /** Puts sections with their questions in: those of a first one that is none by itself where one is, others after it. */
  putSections(sections: readonly Section[], words: string): void {
    const changed = new Map<number, DraftPiece>();
    const place = this.#nextPlace();
    let outline = outlineOf(this.#pieces);
    let at = outline.sections.findIndex(({ id }) => id === place.section) + 1;
    const slots: number[] = [];
    const put = (question: Question): number => {
      const slot = this.#freeSlot(changed);
      changed.set(slot, { piece: "question", question: { ...question, id: this.store.newName("q") } });
      slots.push(slot);
      return slot;
    };
    for (const [i, { questions, ...frame }] of sections.entries()) {
      if (i === 0 && Object.keys(frame).length === 0) {
        for (const [j, question] of questions.entries())
          outline = withQuestionAt(outline, put(question), { ...place, at: place.at + j });
        at = outline.sections.findIndex(({ id }) => id === place.section) + 1;
        continue;
      }
      const all = [...outline.sections];
      all.splice(at, 0, { id: this.store.newName("s"), ...frame, questions: questions.map(put) });
      outline = { ...outline, sections: all };
      at += 1;
    }
    // A section in which nothing stands yet was the place for them.
    const kept = outline.sections.filter(
      (section) => section.id !== place.section || section.questions.length > 0 || !isBare(section),
    );
    changed.set(OUTLINE, { ...outline, sections: kept });
    this.store.change(changed, words);
    if (slots[0] !== undefined) this.store.go({ kind: "piece", slot: slots[0] });
  }

  add(kind: KindName): void {
    this.put([blankQuestion(kind, this.store.newName("q"))], t("composer.draft-deeds.adding"));
  }

  /** The same question once more, below itself. */
  copyBelow(slot: number): void {
    const question = questionOf(this.#pieces, slot);
    if (question) this.put([{ ...question, id: this.store.newName("q") }], t("composer.draft-deeds.copying"));
  }

  /** Takes a question out, and goes to the one beside it. */
  remove(slot: number): void {
    const outline = outlineOf(this.#pieces);
    const all = outline.sections.flatMap(({ questions }) => questions);
    const at = all.indexOf(slot);
    const changed = new Map<number, DraftPiece>([[OUTLINE, withoutQuestion(outline, slot)]]);
    for (const [piece, picture] of this.#left(slot)) changed.set(piece, picture);
    this.store.change(changed, t("composer.draft-deeds.taking-out"));
    const next = all[at + 1] ?? all[at - 1];
    this.store.go(next === undefined ? { kind: "piece", slot: 1 } : { kind: "piece", slot: next });
  }

  /** The pictures that nothing shows once a question is out. */
  #left(slot: number): [number, DraftPiece][] {
    const shown = (each: Question): string[] => fieldsOf(each, marking(each.kind).fields, "picture");
    const outline = outlineOf(this.#pieces);
    const others = new Set(
      outline.sections.flatMap(({ stimulus, questions }) => [
        stimulus?.figure ?? "",
        ...questions
          .filter((each) => each !== slot)
          .flatMap((each) => {
            const question = questionOf(this.#pieces, each);
            return question ? shown(question) : [];
          }),
      ]),
    );
    const own = questionOf(this.#pieces, slot);
    const known = picturesOf(this.#pieces);
    return (own ? shown(own) : []).flatMap((id): [number, DraftPiece][] => {
      const picture = known.get(id);
      if (!picture || others.has(id)) return [];
      const { slot: piece, ...rest } = picture;
      return [[piece, { piece: "picture", picture: { ...rest, removed: true } }]];
    });
  }

  move(slot: number, by: -1 | 1): void {
    const outline = outlineOf(this.#pieces);
    this.store.change(new Map([[OUTLINE, movedBy(outline, slot, by)]]), t("composer.draft-deeds.moving"));
    this.#tellPlace(slot);
  }

  moveTo(slot: number, place: OutlinePlace): void {
    const outline = outlineOf(this.#pieces);
    this.store.change(
      new Map([[OUTLINE, withQuestionAt(outline, slot, place)]]),
      t("composer.draft-deeds.moving"),
    );
    this.#tellPlace(slot);
  }

  /** For who does not see it. */
  #tellPlace(slot: number): void {
    const all = outlineOf(this.#pieces).sections.flatMap(({ questions }) => questions);
    this.store.tell(t("composer.draft-deeds.now-at", { place: all.indexOf(slot) + 1, count: all.length }));
  }

  // Sections.

  addSection(): void {
    const outline = outlineOf(this.#pieces);
    const id = this.store.newName("s");
    const { here } = this.store.state();
    const of = here.kind === "section" ? here.id : placeOf(outline, here.slot)?.section;
    const at = outline.sections.findIndex((each) => each.id === of);
    const sections = [...outline.sections];
    sections.splice(at < 0 ? sections.length : at + 1, 0, { id, title: "", questions: [] });
    this.store.change(
      new Map([[OUTLINE, { ...outline, sections }]]),
      t("composer.draft-deeds.adding-a-section"),
    );
    this.store.go({ kind: "section", id });
  }

  changeSection(
    id: string,
    change: (section: OutlineSection) => OutlineSection,
    words: string,
    typedIn?: string,
  ): void {
    const outline = outlineOf(this.#pieces);
    const sections = outline.sections.map((each) => (each.id === id ? change(each) : each));
    this.store.change(new Map([[OUTLINE, { ...outline, sections }]]), words, typedIn ?? null);
  }

  moveSection(id: string, by: -1 | 1): void {
    const outline = outlineOf(this.#pieces);
    this.store.change(
      new Map([[OUTLINE, sectionMovedBy(outline, id, by)]]),
      t("composer.draft-deeds.moving-a-section"),
    );
  }

  /** Takes a section away; its questions go to the one before it, or after it. */
  removeSection(id: string): void {
    const outline = outlineOf(this.#pieces);
    const at = outline.sections.findIndex((each) => each.id === id);
    const section = outline.sections[at];
    if (!section || outline.sections.length < 2) return;
    const into = outline.sections[at - 1] ?? outline.sections[at + 1];
    const sections = outline.sections
      .filter((each) => each !== section)
      .map((each) =>
        each === into
          ? {
              ...each,
              questions:
                at === 0
                  ? [...section.questions, ...each.questions]
                  : [...each.questions, ...section.questions],
            }
          : each,
      );
    this.store.change(
      new Map([[OUTLINE, { ...outline, sections }]]),
      t("composer.draft-deeds.taking-a-section-out"),
    );
    const next: Here = into ? { kind: "section", id: into.id } : { kind: "piece", slot: 1 };
    this.store.go(next);
  }
}
