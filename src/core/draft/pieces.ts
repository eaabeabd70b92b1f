import type { Question } from "../kinds/marking";
import type { UnitMeanings } from "../numbers/unit-names";
import type { QuizRules } from "../quiz/rules";

/** What stands above all questions of a quiz, and beside them. */
export interface HeadPiece {
  readonly piece: "head";
  readonly title: string;
  readonly language?: string | undefined;
  /** The instructor's words before the start; rich text. */
  readonly brief?: string | undefined;
  /** The reference sheet; rich text. */
  readonly reference?: string | undefined;
  readonly unitMeanings?: UnitMeanings | undefined;
}

/** How it is taken, marked and shown. */
export interface RulesPiece {
  readonly piece: "rules";
  readonly rules: QuizRules;
}

/** Some questions under one title, by their numbers as pieces, in their order. */
export interface OutlineSection {
  /** Its own name within the draft, whatever its title or place. */
  readonly id: string;
  readonly title?: string | undefined;
  readonly stimulus?: { readonly text: string; readonly figure?: string | undefined } | undefined;
  readonly draw?: number | undefined;
  /** Within so many attempts of one person no question is drawn twice, where there are enough. */
  readonly apart?: number | undefined;
  /** Its questions are those of the bank with this topic, and with this tag, if one is named. */
  readonly bank?: { readonly topic: string; readonly tag?: string | undefined } | undefined;
  readonly questions: readonly number[];
}

/** Which questions there are, in which order. A question that stands in no section was taken out. */
export interface OutlinePiece {
  readonly piece: "outline";
  readonly sections: readonly OutlineSection[];
}

/** How a question of a draft hangs together with one of the bank. */
export interface BankLink {
  readonly id: string;
  /** The version that it holds, or was taken from. */
  readonly version: number;
  /** It is always as the bank has it; else it is its own now. */
  readonly follows: boolean;
}

export interface QuestionPiece {
  readonly piece: "question";
  /** As far as it is written: it may not be right yet. */
  readonly question: Question;
  /** The question of the bank that it is, or was taken from; absent: it is none. */
  readonly bank?: BankLink | undefined;
}

export interface PicturePiece {
  readonly piece: "picture";
  readonly picture: {
    readonly id: string;
    readonly alt: string;
    /** The file of the course that it shows. */
    readonly asset: string;
    /** Its width through its height. */
    readonly aspect: number;
    /** Nothing shows it any more. */
    readonly removed?: true | undefined;
  };
}

export interface RecordingPiece {
  readonly piece: "recording";
  readonly recording: {
    readonly id: string;
    readonly kind: "sound" | "film";
    readonly title: string;
    readonly transcript: string;
    readonly aspect?: number | undefined;
    readonly asset: string;
    /** Nothing plays it any more. */
    readonly removed?: true | undefined;
  };
}

/** A draft is kept piece by piece, so that two authors meet only where both write. */
export type DraftPiece =
  | HeadPiece
  | RulesPiece
  | OutlinePiece
  | QuestionPiece
  | PicturePiece
  | RecordingPiece;

/** The pieces that every draft has, by their numbers. Those of questions, pictures and recordings are drawn by lot. */
export const HEAD = 1;
export const RULES = 2;
export const OUTLINE = 3;
/** Numbers drawn by lot begin here, and end below `PIECES_END`. */
export const PIECES_BEGIN = 100;
export const PIECES_END = 2 ** 31;

/** A draft as it stands: its pieces by their numbers. */
export type Pieces = ReadonlyMap<number, DraftPiece>;

/** What a draft needs before anything is written. */
export const NEW_RULES: QuizRules = {
  timeLimit: 20,
  attempts: 1,
  counts: "best",
  order: "free",
  calculator: "none",
  reveal: {
    total: "at-hand-in",
    marks: "at-hand-in",
    written: "at-hand-in",
    right: "after-closing",
    worked: "after-closing",
  },
};

export const headOf = (pieces: Pieces): HeadPiece => {
  const held = pieces.get(HEAD);
  return held?.piece === "head" ? held : { piece: "head", title: "" };
};

export const rulesOf = (pieces: Pieces): QuizRules => {
  const held = pieces.get(RULES);
  return held?.piece === "rules" ? held.rules : NEW_RULES;
};

export const outlineOf = (pieces: Pieces): OutlinePiece => {
  const held = pieces.get(OUTLINE);
  return held?.piece === "outline" ? held : { piece: "outline", sections: [] };
};

/** The question that is a piece of a draft; null: it is none, or not there. */
export const questionOf = (pieces: Pieces, slot: number): Question | null => {
  const held = pieces.get(slot);
  return held?.piece === "question" ? held.question : null;
};

/** The pictures of a draft, by their ids, with the numbers of their pieces. */
export function picturesOf(pieces: Pieces): Map<string, PicturePiece["picture"] & { readonly slot: number }> {
  const found = new Map<string, PicturePiece["picture"] & { readonly slot: number }>();
  for (const [slot, each] of pieces)
    if (each.piece === "picture") found.set(each.picture.id, { ...each.picture, slot });
  return found;
}

/** The sounds and films of a draft, by their ids, with the numbers of their pieces. */
export function recordingsOf(
  pieces: Pieces,
): Map<string, RecordingPiece["recording"] & { readonly slot: number }> {
  const found = new Map<string, RecordingPiece["recording"] & { readonly slot: number }>();
  for (const [slot, each] of pieces)
    if (each.piece === "recording") found.set(each.recording.id, { ...each.recording, slot });
  return found;
}

/** The files of the course that a draft shows and plays, each once. */
export const assetsOf = (pieces: Pieces): string[] => [
  ...new Set(
    [...pieces.values()].flatMap((piece) =>
      piece.piece === "picture"
        ? [piece.picture.asset]
        : piece.piece === "recording"
          ? [piece.recording.asset]
          : [],
    ),
  ),
];

/** The questions of a draft in their order, with the numbers of their pieces. */
export const questionsOf = (pieces: Pieces): { readonly slot: number; readonly question: Question }[] =>
  outlineOf(pieces).sections.flatMap(({ questions }) =>
    questions.flatMap((slot) => {
      const question = questionOf(pieces, slot);
      return question ? [{ slot, question }] : [];
    }),
  );

/** A draft with some of its pieces changed. */
export const withPieces = (pieces: Pieces, changed: Iterable<readonly [number, DraftPiece]>): Pieces =>
  new Map([...pieces, ...changed]);

/** The number of the first question of a draft; null: there is none. */
export const placeOfFirst = (pieces: Pieces): number | null => questionsOf(pieces)[0]?.slot ?? null;
