import { readdirSync, readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { KIND_NAMES } from "../kinds/answering";
import type { Question } from "../kinds/marking";
import { type QuizFile, readQuizFile } from "../quiz/quiz-file";
import { sameValue } from "../same-value";
import { assembled, type Making, piecesOf } from "./assembled";
import { blankDraft, blankQuestion } from "./blank";
import { movedBy, outlinesTogether, withoutQuestion, withQuestionAt } from "./outline";
import { isPiece } from "./piece-shape";
import { type DraftPiece, HEAD, OUTLINE, type OutlinePiece, outlineOf, PIECES_BEGIN } from "./pieces";
import { toPutRight } from "./to-put-right";

const folder = "src/demo/quizzes";
const load = (file: string) => JSON.parse(readFileSync(`${folder}/${file}`, "utf8")) as QuizFile;
const files = readdirSync(folder).filter((file) => file.endsWith(".json"));

function making(): Making & { readonly kept: Map<string, object> } {
  let [slot, name] = [PIECES_BEGIN, 0];
  const kept = new Map<string, object>();
  return {
    kept,
    newSlot: () => slot++,
    newName: () => `s${name++}`,
    assetOf: (medium) => {
      const asset = `00000000-0000-4000-8000-${String(kept.size).padStart(12, "0")}`;
      const { data, file } = medium;
      kept.set(asset, data === undefined ? { file } : { data });
      return { asset, aspect: 1.5 };
    },
  };
}

/** Of those with one id, one. */
const each = <T extends { readonly id: string }>(media: readonly T[]): T[] => [
  ...new Map(media.map((medium) => [medium.id, medium])).values(),
];

/** A quiz opened in the composer and saved again. */
function through(quiz: QuizFile): QuizFile {
  const made = making();
  const pieces = piecesOf(quiz, made);
  const file = (asset: string) => made.kept.get(asset) ?? {};
  return assembled(pieces, { picture: file, recording: file }).quiz;
}

describe("what the check accepts, a draft holds whole", () => {
  test.each(files)("%s comes out as it went in", (file) => {
    expect(through(load(file))).toEqual(load(file));
  });

  test.each(files)("each piece of %s can be kept", (file) => {
    for (const [slot, piece] of piecesOf(load(file), making())) expect(isPiece(piece, slot)).toBe(true);
  });

  test("quizzes put together at random come out as they went in", () => {
    const questions = files.flatMap((file) => load(file).sections.flatMap((section) => section.questions));
    const [base] = files.map(load);
    const section = fc.record(
      {
        title: fc.string({ maxLength: 40 }),
        stimulus: fc.record({ text: fc.string({ minLength: 1, maxLength: 40 }) }),
        questions: fc.uniqueArray(fc.integer({ min: 0, max: questions.length - 1 }), {
          minLength: 1,
          maxLength: 5,
        }),
      },
      { requiredKeys: ["questions"] },
    );
    fc.assert(
      fc.property(fc.array(section, { minLength: 1, maxLength: 4 }), (sections) => {
        const quiz = {
          ...(base as QuizFile),
          pictures: each(files.flatMap((file) => load(file).pictures ?? [])),
          recordings: each(files.flatMap((file) => load(file).recordings ?? [])),
          sections: sections.map((some, i) => ({
            ...some,
            questions: some.questions.map((nth, j) => ({
              ...(questions[nth] as Question),
              id: `q${i}-${j}`,
            })),
          })),
        } as QuizFile;
        expect(through(quiz)).toEqual(quiz);
      }),
      { numRuns: 40 },
    );
  });
});

describe("what is to be put right", () => {
  const wordsOf = (pieces: ReadonlyMap<number, DraftPiece>) => toPutRight(pieces).filter(({ must }) => must);

  test.each(files)("is nothing in %s", (file) => {
    expect(wordsOf(piecesOf(load(file), making()))).toEqual([]);
  });

  test("is nothing exactly where the check takes the file, for a blank question of each kind with parts taken away", () => {
    for (const kind of KIND_NAMES) {
      const pieces = blankDraft("A quiz", "s");
      pieces.set(200, { piece: "question", question: blankQuestion(kind, "q") });
      pieces.set(OUTLINE, { piece: "outline", sections: [{ id: "s", questions: [200] }] });
      const found = wordsOf(pieces);
      expect(found.length > 0).toBe(!readQuizFile(assembled(pieces).quiz).ok);
      // Each leads somewhere that there is.
      for (const { slot } of found) expect(pieces.has(slot)).toBe(true);
      expect(isPiece(pieces.get(200), 200)).toBe(true);
    }
  });

  test("leads to the piece that it is in", () => {
    const pieces = piecesOf(load("tides-and-clearances.json"), making());
    pieces.set(HEAD, { piece: "head", title: "" });
    expect(wordsOf(pieces).map(({ slot, path }) => [slot, path])).toEqual([[HEAD, "title"]]);
    const [first] = outlineOf(pieces).sections.flatMap(({ questions }) => questions);
    const held = pieces.get(first ?? 0);
    if (held?.piece !== "question") throw new Error("no question");
    pieces.set(first ?? 0, { piece: "question", question: { ...held.question, marks: "many" } as Question });
    expect(wordsOf(pieces).map(({ slot, path }) => [slot, path])).toContainEqual([first, "marks"]);
  });

  test("a piece of another sort is none, however it is named", () => {
    const question = blankQuestion("essay", "q");
    for (const piece of [
      null,
      [],
      "head",
      { piece: "question" },
      { piece: "question", question: { ...question, kind: "riddle" } },
      { piece: "question", question: { ...question, text: 7 } },
      { piece: "question", question: { ...question, colour: "blue" } },
      { piece: "question", question, secret: true },
      { piece: "question", question: { ...question, rubric: { criteria: "none" } } },
      { piece: "picture", picture: { id: "a", alt: "", asset: "../etc/passwd", aspect: 1 } },
    ])
      expect(isPiece(piece, 200)).toBe(false);
    expect(isPiece({ piece: "head", title: "x" }, 200)).toBe(false);
    expect(isPiece({ piece: "question", question }, HEAD)).toBe(false);
    expect(isPiece({ piece: "outline", sections: [{ id: "s", questions: [200, 200] }] }, OUTLINE)).toBe(
      false,
    );
  });
});

describe("two outlines that were made of one", () => {
  const slots = (outline: OutlinePiece) => outline.sections.flatMap(({ questions }) => questions);
  const change = fc.oneof(
    fc.record({
      does: fc.constant("move" as const),
      at: fc.nat(9),
      by: fc.constantFrom(-1 as const, 1 as const),
    }),
    fc.record({ does: fc.constant("out" as const), at: fc.nat(9) }),
    fc.record({ does: fc.constant("in" as const), at: fc.nat(9) }),
    fc.record({ does: fc.constant("title" as const), at: fc.nat(9) }),
  );
  const base: OutlinePiece = {
    piece: "outline",
    sections: [
      { id: "a", questions: [101, 102, 103] },
      { id: "b", title: "Second", questions: [104, 105] },
    ],
  };

  test("hold, put together, what either put in and nothing that either took out, each once", () => {
    fc.assert(
      fc.property(fc.array(change, { maxLength: 6 }), fc.array(change, { maxLength: 6 }), (one, other) => {
        const made = (changes: typeof one, first: number) => {
          let next = first;
          return changes.reduce<OutlinePiece>((outline, each) => {
            const all = slots(outline);
            const slot = all[each.at % Math.max(1, all.length)] ?? 101;
            const section = outline.sections[each.at % outline.sections.length];
            if (each.does === "move") return movedBy(outline, slot, each.by);
            if (each.does === "out") return withoutQuestion(outline, slot);
            if (each.does === "in") {
              next += 1;
              return withQuestionAt(outline, next, { section: section?.id ?? "a", at: each.at % 3 });
            }
            const titled = outline.sections.map((every) =>
              every === section ? { ...every, title: `by ${first}` } : every,
            );
            return { piece: "outline", sections: titled };
          }, base);
        };
        const [mine, theirs] = [made(one, 200), made(other, 300)];
        const together = outlinesTogether(base, mine, theirs);
        const found = slots(together);
        expect(new Set(found).size).toBe(found.length);
        const [was, inMine, inTheirs] = [base, mine, theirs].map((each) => new Set(slots(each)));
        const wanted = [...(was ?? [])]
          .filter((slot) => inMine?.has(slot) && inTheirs?.has(slot))
          .concat([...(inMine ?? []), ...(inTheirs ?? [])].filter((slot) => !was?.has(slot)));
        expect([...found].sort()).toEqual([...new Set(wanted)].sort());
        expect(outlinesTogether(base, mine, base)).toEqual(mine);
        expect(outlinesTogether(base, base, theirs)).toEqual(theirs);
        expect(isPiece(together, OUTLINE)).toBe(true);
      }),
      { numRuns: 300 },
    );
  });
});

test("values are the same whatever the order of their fields", () => {
  expect(sameValue({ a: [1, { b: 2, c: undefined }] }, { a: [1, { b: 2 }] })).toBe(true);
  expect(sameValue({ a: [] }, { a: {} })).toBe(false);
  expect(sameValue([1, 2], [1])).toBe(false);
});
