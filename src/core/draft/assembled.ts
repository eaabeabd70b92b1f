import { given } from "../given";
import type { Picture, QuizFile, QuizRecording, Section } from "../quiz/quiz-file";
import {
  type DraftPiece,
  HEAD,
  headOf,
  OUTLINE,
  outlineOf,
  type Pieces,
  picturesOf,
  questionOf,
  RULES,
  recordingsOf,
  rulesOf,
} from "./pieces";

/** A draft as a quiz file, with the numbers of the pieces that its questions, pictures and recordings come from. */
export interface Assembled {
  /** As far as it is written: whether it is right is for the reader of quiz files to say. */
  readonly quiz: QuizFile;
  /** By section, then by question. */
  readonly questionSlots: readonly (readonly number[])[];
  readonly pictureSlots: readonly number[];
  readonly recordingSlots: readonly number[];
}

/** The names under which a file keeps what it shows and plays. */
export interface AssetFiles {
  /** The name of a picture's file, or its data address. */
  readonly picture: (asset: string) => Pick<Picture, "data" | "file">;
  readonly recording: (asset: string) => Pick<QuizRecording, "data" | "file">;
}

/** Names that stand for files which are elsewhere. */
export const NAMED: AssetFiles = {
  picture: (asset) => ({ file: `${asset}.png` }),
  recording: (asset) => ({ file: `${asset}.mp3` }),
};

/** The quiz that the pieces of a draft make, without the pictures and recordings that were taken out. */
export function assembled(pieces: Pieces, files: AssetFiles = NAMED): Assembled {
  const { piece: _, ...head } = headOf(pieces);
  const { sections } = outlineOf(pieces);
  const questionSlots = sections.map(({ questions }) =>
    questions.filter((slot) => questionOf(pieces, slot) !== null),
  );
  const made = sections.map(({ id: _, bank: ___, questions: __, ...section }, i): Section => {
    const questions = (questionSlots[i] ?? []).flatMap((slot) => questionOf(pieces, slot) ?? []);
    return { ...given(section), questions };
  });
  const pictures = [...picturesOf(pieces).values()].filter(({ removed }) => !removed);
  const recordings = [...recordingsOf(pieces).values()].filter(({ removed }) => !removed);
  return {
    quiz: {
      format: "shizuka-quiz",
      version: 1,
      ...given(head),
      rules: rulesOf(pieces),
      ...(pictures.length === 0
        ? {}
        : { pictures: pictures.map(({ id, alt, asset }) => ({ id, alt, ...files.picture(asset) })) }),
      ...(recordings.length === 0
        ? {}
        : {
            recordings: recordings.map(({ slot: _, removed: __, asset, ...each }) => ({
              ...given(each),
              ...files.recording(asset),
            })),
          }),
      sections: made,
    },
    questionSlots,
    pictureSlots: pictures.map(({ slot }) => slot),
    recordingSlots: recordings.map(({ slot }) => slot),
  };
}

/** What a draft is made from a quiz with. */
export interface Making {
  /** A number for a piece, different each time. */
  readonly newSlot: () => number;
  /** A name for a section, different each time. */
  readonly newName: () => string;
  /** Where what a picture shows, or a recording plays, was kept; null: it was left out. */
  readonly assetOf: (
    medium: Picture | QuizRecording,
  ) => { readonly asset: string; readonly aspect: number } | null;
}

/** The pieces of a draft that makes a quiz again, as it is. */
export function piecesOf(quiz: QuizFile, making: Making): Map<number, DraftPiece> {
  const { title, language, brief, reference, unitMeanings, rules } = quiz;
  const pieces = new Map<number, DraftPiece>([
    [HEAD, given({ piece: "head", title, language, brief, reference, unitMeanings }) as DraftPiece],
    [RULES, { piece: "rules", rules }],
  ]);
  for (const picture of quiz.pictures ?? []) {
    const kept = making.assetOf(picture);
    const { id, alt } = picture;
    if (kept) pieces.set(making.newSlot(), { piece: "picture", picture: { id, alt, ...kept } });
  }
  for (const recording of quiz.recordings ?? []) {
    const kept = making.assetOf(recording);
    const { data: _, file: __, ...rest } = recording;
    if (kept) pieces.set(making.newSlot(), { piece: "recording", recording: { ...rest, asset: kept.asset } });
  }
  const sections = quiz.sections.map(({ questions, ...section }) => ({
    id: making.newName(),
    ...section,
    questions: questions.map((question) => {
      const slot = making.newSlot();
      pieces.set(slot, { piece: "question", question });
      return slot;
    }),
  }));
  pieces.set(OUTLINE, { piece: "outline", sections });
  return pieces;
}
