import { fieldsOf, mapFields } from "../kinds/fields";
import { marking, type Question } from "../kinds/marking";
import { sameValue } from "../same-value";
import {
  type DraftPiece,
  OUTLINE,
  type OutlineSection,
  outlineOf,
  type Pieces,
  picturesOf,
  type QuestionPiece,
  questionsOf,
} from "./pieces";

/** A picture that a question of the bank shows. Its id is the same in every quiz that shows it. */
export interface BankPicture {
  readonly id: string;
  readonly alt: string;
  /** A file of the course. */
  readonly asset: string;
  /** Its width through its height. */
  readonly aspect: number;
}

/** A question of a bank as a quiz takes it. */
export interface BankQuestion {
  readonly id: string;
  readonly version: number;
  readonly topic: string;
  readonly tags: readonly string[];
  readonly question: Question;
  readonly pictures: readonly BankPicture[];
}

/** A question of a bank as lists name it. */
export interface BankLine {
  readonly id: string;
  readonly version: number;
  readonly topic: string;
  readonly tags: readonly string[];
  readonly kind: Question["kind"];
  readonly marks: number | string;
  /** Its first words. */
  readonly words: string;
  /** The course whose bank it is in; null: this one. */
  readonly from: string | null;
}

/**
 * Whether all words that are looked for stand in a line: in the question, its topic or its tags.
 * @example holdsWords({ words: "It ebbs", topic: "Tides", tags: ["easy"] }, "EBBS easy") → true
 */
export const holdsWords = (
  { words, topic, tags }: Pick<BankLine, "words" | "topic" | "tags">,
  wanted: string,
): boolean => {
  const all = [words, topic, ...tags].join(" ").toLocaleLowerCase();
  return wanted
    .toLocaleLowerCase()
    .split(/\s+/)
    .every((word) => all.includes(word));
};

/** Which questions of a bank a section draws from. */
export type BankChoice = NonNullable<OutlineSection["bank"]>;

/** @example isChosen({ topic: "Tides", tags: ["easy"] }, { topic: "Tides" }) → true */
export const isChosen = (
  { topic, tags }: Pick<BankQuestion, "topic" | "tags">,
  choice: BankChoice,
): boolean => topic === choice.topic && (choice.tag === undefined || tags.includes(choice.tag));

/**
 * What a question of a quiz becomes that is changed in it: no longer as the bank has it.
 * @example asOwn(undefined) → undefined
 */
export const asOwn = (bank: QuestionPiece["bank"]): QuestionPiece["bank"] =>
  bank && { ...bank, follows: false };

/** A question with its fields and its link; absent links are no fields. */
export const linkedPiece = (question: Question, bank: QuestionPiece["bank"]): QuestionPiece =>
  bank === undefined ? { piece: "question", question } : { piece: "question", question, bank };

/** The name that a question drawn from the bank has in every quiz; another one where that is taken already. */
function nameOf(id: string, taken: ReadonlySet<string>): string {
  const name = `b${id.replaceAll("-", "")}`;
  for (let nth = 1; ; nth += 1) {
    const found = nth === 1 ? name : `${name}-${nth}`;
    if (!taken.has(found)) return found;
  }
}

/** The pieces that show the pictures of questions of the bank, as far as a draft does not have them yet. */
export function bankPictures(
  pieces: Pieces,
  questions: readonly BankQuestion[],
  newSlot: () => number,
): [number, DraftPiece][] {
  const known = picturesOf(pieces);
  const wanted = new Map(questions.flatMap(({ pictures }) => pictures.map((each) => [each.id, each])));
  return [...wanted.values()].flatMap((picture): [number, DraftPiece][] => {
    const held = known.get(picture.id);
    if (held && !held.removed) return [];
    return [[held?.slot ?? newSlot(), { piece: "picture", picture }]];
  });
}

/**
 * What in a draft is otherwise than its banks have it now: questions that follow, and the questions of sections that draw from
 * a topic. What was changed in the quiz itself stays as it is there.
 * @param bank all questions that the draft's course may take
 */
export function bankFollowed(
  pieces: Pieces,
  bank: readonly BankQuestion[],
  newSlot: () => number,
): Map<number, DraftPiece> {
  const changed = new Map<number, DraftPiece>();
  const byId = new Map(bank.map((each) => [each.id, each]));
  const taken: BankQuestion[] = [];
  const outline = outlineOf(pieces);
  const names = new Set(questionsOf(pieces).map(({ question }) => question.id));
  const pieceAt = (slot: number): QuestionPiece | null => {
    const held = pieces.get(slot);
    return held?.piece === "question" ? held : null;
  };
  const sections = outline.sections.map((section) => {
    const { bank: choice } = section;
    if (!choice) return section;
    const standing = new Map(
      section.questions.flatMap((slot) => {
        const link = pieceAt(slot)?.bank;
        return link ? [[link.id, slot] as const] : [];
      }),
    );
    const wanted = bank.filter((each) => isChosen(each, choice));
    const drawn = wanted.map((each) => {
      const known = standing.get(each.id);
      if (known !== undefined) return known;
      const slot = newSlot();
      const { id, version, question } = each;
      const name = nameOf(id, names);
      names.add(name);
      changed.set(slot, linkedPiece({ ...question, id: name }, { id, version, follows: true }));
      taken.push(each);
      return slot;
    });
    const own = section.questions.filter((slot) => !pieceAt(slot)?.bank?.follows && !drawn.includes(slot));
    return { ...section, questions: [...drawn, ...own] };
  });
  const next = { ...outline, sections };
  if (!sameValue(next, outline)) changed.set(OUTLINE, next);
  for (const slot of sections.flatMap(({ questions }) => questions)) {
    const piece = pieceAt(slot);
    const now = piece?.bank?.follows ? byId.get(piece.bank.id) : undefined;
    if (!piece || !now) continue;
    const question = { ...now.question, id: piece.question.id };
    taken.push(now);
    const link = { id: now.id, version: now.version, follows: true };
    const followed = linkedPiece(question, link);
    if (!sameValue(followed, piece)) changed.set(slot, followed);
  }
  for (const [slot, picture] of bankPictures(pieces, taken, newSlot)) changed.set(slot, picture);
  return changed;
}

/** A question with its pictures by other ids. */
export const withPictureIds = (question: Question, ids: ReadonlyMap<string, string>): Question =>
  mapFields(question, marking(question.kind).fields, (held, use) =>
    use === "picture" ? (ids.get(held) ?? held) : held,
  );

/** The ids of the pictures that a question shows. */
export const picturesShown = (question: Question): string[] => [
  ...new Set(fieldsOf(question, marking(question.kind).fields, "picture")),
];
