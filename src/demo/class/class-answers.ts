import { randomUUID } from "node:crypto";
import { planAttempt } from "@/core/attempt/plan";
import type { Answer } from "@/core/kinds/answering";
import { markQuestion, type Question } from "@/core/kinds/marking";
import { type AttemptSeed, type Chance, chance } from "@/core/numbers/seeded";
import { answerOf } from "./answer-model";
import type { ClassAttempt } from "./class-attempts";
import { ESSAYS, type SampleEssay, takenOver } from "./essays";
import { asPdf, asPicture, asText, countsTable, pageLines, type SampleFile } from "./pages";

/** What was done in an attempt. */
export interface Taken {
  readonly answers: ReadonlyMap<number, Answer>;
  /** What stood there first, where it was changed. */
  readonly first: ReadonlyMap<number, Answer>;
  /** What was checked before, in order, where answers may be checked. */
  readonly checks: ReadonlyMap<number, readonly Answer[]>;
  readonly files: readonly (SampleFile & { readonly id: string; readonly slot: number })[];
  /** How good what a person marks is, by slot, 0 to 1. */
  readonly quality: ReadonlyMap<number, number>;
}

const clamp = (value: number): number => Math.min(1, Math.max(0, value));

/** What the characters hand in: asked for each attempt with its seed. */
export function classWork(attempts: readonly ClassAttempt[]) {
  const essays = new Map<string, ReadonlyMap<string, SampleEssay>>();
  const essayOf = ({ quiz, character }: ClassAttempt, question: string): SampleEssay | undefined => {
    const held = essays.get(quiz.key) ?? essaysAt(attempts, quiz.key);
    essays.set(quiz.key, held);
    return held.get(`${question} ${character.name}`);
  };
  return (attempt: ClassAttempt, seed: AttemptSeed) => taken(attempt, seed, essayOf);
}

async function taken(
  attempt: ClassAttempt,
  seed: AttemptSeed,
  essayOf: (attempt: ClassAttempt, question: string) => SampleEssay | undefined,
): Promise<Taken> {
  const { quiz, character, number } = attempt;
  const answers = new Map<number, Answer>();
  const first = new Map<number, Answer>();
  const checks = new Map<number, Answer[]>();
  const files: (SampleFile & { id: string; slot: number })[] = [];
  const quality = new Map<number, number>();
  for (const { slot, question } of planAttempt(quiz.content, seed)) {
    const next = chance("class answer", quiz.key, character.name, String(number), question.id);
    if (question.kind === "essay") {
      const found = essayOf(attempt, question.id);
      if (!found || next() < character.leavesEmpty * 0.1) continue;
      answers.set(slot, { rich: found.paragraphs.map((each) => `<p>${each}</p>`).join("") });
      quality.set(slot, found.quality);
    } else if (question.kind === "upload") {
      const good = clamp(character.writes + (next() - 0.5) * 0.4);
      const brought = await filesOf(question, good, next);
      const named = brought.map((file) => ({ ...file, id: randomUUID(), slot }));
      files.push(...named);
      quality.set(slot, good);
      answers.set(slot, {
        files: named.map(({ id, name, bytes }) => ({ id, name, size: bytes.length })),
        text:
          question.textBeside && good > 0.6
            ? "The last lines were written in the barn, it had begun to rain."
            : "",
      });
    } else {
      const { answer, before, tried } = ruled(attempt, question, seed, next);
      if (before) first.set(slot, before);
      if (tried.length > 0) checks.set(slot, tried);
      if (answer) answers.set(slot, answer);
    }
  }
  return { answers, first, checks, files, quality };
}

/** An answer to a question that a rule marks, what stood there before it, and what was checked on the way. */
function ruled(
  { quiz, character }: ClassAttempt,
  question: Question,
  seed: AttemptSeed,
  next: Chance,
): { answer: Answer | null; before: Answer | null; tried: Answer[] } {
  const answer = answerOf(character, question, seed, next);
  const { tries } = quiz.content.rules;
  if (!tries || question.kind === "declaration") {
    // Now and then another answer stood there first.
    const before =
      next() < 0.12 ? answerOf({ ...character, knows: character.knows - 1 }, question, seed, next) : null;
    return { answer, before, tried: [] };
  }
  const tried: Answer[] = [];
  let written = answer;
  while (written && tried.length < tries.most) {
    tried.push(written);
    if (markQuestion(question, seed, written).state === "full") break;
    // Told that it is wrong, one thinks again, or leaves it.
    if (next() < 0.25) break;
    written = answerOf({ ...character, knows: character.knows + 0.8 }, question, seed, next);
  }
  return { answer: tried.at(-1) ?? null, before: null, tried };
}

/** The essay of each who takes a quiz, by question: nobody has the same words as another but the one who copies. */
function essaysAt(attempts: readonly ClassAttempt[], quiz: string): ReadonlyMap<string, SampleEssay> {
  const found = new Map<string, SampleEssay>();
  for (const [question, texts] of Object.entries(ESSAYS)) {
    const sorted = [...texts].sort((a, b) => a.quality - b.quality);
    const writers = attempts
      .filter((each) => each.quiz.key === quiz && !each.character.copiesFrom)
      .map(({ character: { name, writes } }) => ({
        name,
        good: writes + (chance("essay", question, name)() - 0.5) * 0.2,
      }))
      .sort((a, b) => a.good - b.good);
    // The weakest text goes to the weakest writer, the best to the best; where there are more writers, the weakest have none.
    const step = Math.max(1, (sorted.length - 1) / Math.max(1, writers.length - 1));
    for (const [i, { name }] of [...writers].reverse().entries()) {
      const text = sorted[Math.round(sorted.length - 1 - i * step)];
      if (text) found.set(`${question} ${name}`, text);
    }
    for (const { quiz: of, character } of attempts) {
      const copied = found.get(`${question} ${character.copiesFrom ?? ""}`);
      if (of.key === quiz && copied) found.set(`${question} ${character.name}`, takenOver(copied));
    }
  }
  return found;
}

async function filesOf(
  question: Extract<Question, { kind: "upload" }>,
  quality: number,
  next: Chance,
): Promise<SampleFile[]> {
  if (question.allows.includes("spreadsheet")) return [countsTable(quality, next)];
  const lines = () => pageLines(quality, next);
  if (question.allows.includes("text") && next() < 0.5) return [asText(lines())];
  if (!question.allows.includes("pdf") || next() < 0.35) return [await asPicture(lines(), next)];
  const pages = question.mostFiles && question.mostFiles > 1 && quality > 0.3 ? 2 : 1;
  return Array.from({ length: pages }, (_, i) => ({ ...asPdf(lines()), name: `page ${i + 1}.pdf` }));
}
