import type { Answer } from "@/core/kinds/answering";
import { present, type Question, rightAnswerTo } from "@/core/kinds/marking";
import { formulaOf, mistakenValue, worksOut } from "@/core/kinds/numeric/question";
import { type Exact, exact } from "@/core/numbers/exact";
import { plainWriting } from "@/core/numbers/read-number";
import { type AttemptSeed, type Chance, shuffled } from "@/core/numbers/seeded";
import { inFigures } from "@/core/numbers/significant-figures";
import { anyOf } from "./any-of";
import type { Character } from "./characters";
import { difficultyOf, isMisleading, POPULAR_WRONG } from "./difficulty";
import { wrongTextsOf } from "./wrong-texts";

type Of<K extends Question["kind"]> = Extract<Question, { kind: K }>;

/** How sharply what is known decides: the slope of the curve at its middle. */
const SLOPE = 1.5;

/** The chance that somebody knows something, by what they know and how hard it is. */
const knowing = ({ knows }: Character, question: Question, harder = 0): number =>
  isMisleading(question.id)
    ? 1 / (1 + Math.exp(0.8 * knows + 0.2))
    : 1 / (1 + Math.exp(-SLOPE * (knows - difficultyOf(question.id) - harder)));

/** One of a list, the earlier ones more often. */
function earlier<T>(list: readonly T[], next: Chance): T | undefined {
  return list[Math.floor(next() * next() * list.length)];
}

/**
 * What a character answers to a question that a rule marks; null: nothing. What is known is right, now and then with a
 * slip; what is not is one of the usual mistakes, a guess, or left empty.
 */
export function answerOf(
  character: Character,
  question: Question,
  seed: AttemptSeed,
  next: Chance,
): Answer | null {
  const leaves = () => next() < character.leavesEmpty;
  const knows = () => next() < knowing(character, question);
  switch (question.kind) {
    case "numeric":
      return numbers(character, question, seed, next);
    case "one-of-several": {
      const named = (id: string) => ({ pick: seed.name(question.id, id) });
      if (knows()) return rightAnswerTo(question, seed);
      if (leaves() && next() < 0.5) return null;
      const wrong = question.options.filter(({ right }) => !right);
      const popular = POPULAR_WRONG[question.id];
      if (popular && next() < 0.85) return named(popular);
      // Who guesses hits the right one too.
      if (next() < 1 / question.options.length) return rightAnswerTo(question, seed);
      return named(earlier(wrong, next)?.id ?? "");
    }
    case "several-of-several": {
      const picked = question.options.filter(({ right }) => (knows() ? right : next() < 0.45));
      const most = question.most ?? question.options.length;
      const least = question.least ?? 0;
      const others = question.options.filter((option) => !picked.includes(option));
      const all = shuffled(picked, next).slice(0, most);
      while (all.length < least && others.length > 0) all.push(others.shift() as (typeof others)[number]);
      return all.length > 0 ? { picks: all.map(({ id }) => seed.name(question.id, id)) } : null;
    }
    case "true-or-false":
      return knows() || next() < 0.5 ? { value: question.right } : { value: !question.right };
    case "short-text": {
      const text = words(character, question.id, question.accepted, knows(), next);
      return text === "" ? null : { text };
    }
    case "gaps": {
      const gaps = question.gaps.flatMap((gap): [string, string][] => {
        if (gap.accepted) {
          const text = words(character, gap.id, gap.accepted, knows(), next);
          return text === "" ? [] : [[gap.id, text]];
        }
        const right = gap.options?.find((option) => option.right);
        const option = knows() ? right : anyOf(gap.options ?? [], next);
        return option ? [[gap.id, seed.name(`${question.id} ${gap.id}`, option.id)]] : [];
      });
      return gaps.length > 0 ? { gaps: Object.fromEntries(gaps) } : null;
    }
    case "matching":
      return matched(question, seed, knows, next);
    case "ordering":
      return ordered(question, seed, knows, next);
    case "point-on-picture": {
      const points = question.regions.flatMap((region) => {
        // Not the point of the right answer: of a polygon that may lie at its rim, where a hand that trembles misses it.
        const middle =
          region.shape === "circle"
            ? { x: region.x, y: region.y }
            : region.shape === "rectangle"
              ? { x: region.x + region.width / 2, y: region.y + region.height / 2 }
              : {
                  x: region.corners.reduce((sum, { x }) => sum + x, 0) / region.corners.length,
                  y: region.corners.reduce((sum, { y }) => sum + y, 0) / region.corners.length,
                };
        const by = () => (next() - 0.5) * 0.03;
        if (knows()) return [{ x: round(middle.x + by()), y: round(middle.y + by()) }];
        return leaves() ? [] : [{ x: round(0.1 + next() * 0.8), y: round(0.1 + next() * 0.8) }];
      });
      return points.length > 0 ? { points } : null;
    }
    case "declaration": {
      const option = question.options.at(-1);
      return option ? { choice: option.id } : null;
    }
    default:
      return null;
  }
}

const round = (value: number): number => Math.round(value * 1000) / 1000;

/** Each part as it is known, the later ones from what was found in the earlier. */
function numbers(
  character: Character,
  question: Of<"numeric">,
  seed: AttemptSeed,
  next: Chance,
): Answer | null {
  const work = worksOut(question, seed);
  const own = new Map<string, Exact>(work.values);
  const parts: [string, string][] = [];
  // Who writes units and commas does so everywhere.
  const habit = Math.floor(next() * 4);
  for (const [place, part] of question.parts.entries()) {
    const harder = place * 0.25;
    let value: Exact | null = null;
    if (next() < knowing(character, question, harder)) {
      value = formulaOf(part).value(own);
      if (next() < character.slips) value = value.mul(exact(next() < 0.5 ? "1.1" : "0.9"));
    } else if (next() < 0.65 && part.mistakes?.length) {
      const mistake = earlier(part.mistakes, next);
      value = mistake ? mistakenValue(mistake, own) : null;
    } else if (next() >= character.leavesEmpty) {
      value = formulaOf(part)
        .value(own)
        .mul(exact(anyOf(["0.5", "2", "1.25", "0.8", "10"], next) ?? "2"));
    }
    if (value === null) continue;
    const figures = part.tolerance.rule === "figures" ? part.tolerance.figures : 4;
    const isShort = part.tolerance.rule === "figures" && next() < character.slips;
    const figure = decimal(value, isShort ? Math.max(1, figures - 1) : figures);
    const isBare = part.unitRule !== "needed" ? habit < 2 : next() < character.slips;
    // A comma before three digits would be asked about at the desk.
    const text = habit === 3 && !/\.\d{3}$/.test(figure) ? figure.replace(".", ",") : figure;
    parts.push([part.id, part.unit && !isBare ? `${text} ${part.unit}` : text]);
    // What is written is what one goes on with.
    own.set(part.id, exact(figure));
  }
  return parts.length > 0 ? { parts: Object.fromEntries(parts) } : null;
}

/** A value as it is written down: in so many figures, and never as a fraction. */
function decimal(value: Exact, figures: number): string {
  const plain = plainWriting(value);
  return plain.includes("/") || plain.replace(/\D/g, "").length > figures + 2
    ? inFigures(value, figures)
    : plain;
}

/** A text as one writes it: as it is known, with a slip of the keys now and then, or what others take it for. */
function words(
  character: Character,
  id: string,
  accepted: readonly { readonly text: string; readonly credit?: number | string | undefined }[],
  isKnown: boolean,
  next: Chance,
): string {
  const plain = accepted.filter(({ text }) => !text.includes("*"));
  const full = plain.filter(({ credit }) => credit === undefined || exact(credit).equals(1));
  const partly = plain.filter(({ credit }) => credit !== undefined && !exact(credit).equals(1));
  if (isKnown) {
    const text = earlier(full, next)?.text ?? "";
    if (next() < character.slips * 2 && text.length > 6) {
      const at = 2 + Math.floor(next() * (text.length - 4));
      return text.slice(0, at) + text.slice(at + 1);
    }
    return next() < 0.15 ? `the ${text}` : text;
  }
  if (next() < character.leavesEmpty) return "";
  if (partly.length > 0 && next() < 0.5) return anyOf(partly, next)?.text ?? "";
  return anyOf(wrongTextsOf(id), next) ?? "";
}

function matched(
  question: Of<"matching">,
  seed: AttemptSeed,
  knows: () => boolean,
  next: Chance,
): Answer | null {
  const presented = present(question, seed);
  const right = rightAnswerTo(question, seed);
  if (!right || !("pairs" in right) || presented.kind !== "matching") return right;
  const pairs: Record<string, string> = {};
  const free = new Set(presented.targets.map(({ id }) => id));
  const unknown: string[] = [];
  for (const [prompt, target] of Object.entries(right.pairs)) {
    if (!knows()) unknown.push(prompt);
    else {
      pairs[prompt] = target;
      if (presented.once) free.delete(target);
    }
  }
  for (const prompt of unknown) {
    const target = anyOf([...free], next);
    if (target === undefined) continue;
    pairs[prompt] = target;
    if (presented.once) free.delete(target);
  }
  return { pairs };
}

function ordered(
  question: Of<"ordering">,
  seed: AttemptSeed,
  knows: () => boolean,
  next: Chance,
): Answer | null {
  const right = rightAnswerTo(question, seed);
  if (!right || !("order" in right) || knows()) return right;
  const order = [...right.order];
  const at = Math.floor(next() * (order.length - 1));
  const [first = "", second = ""] = order.slice(at, at + 2);
  order.splice(at, 2, second, first);
  return { order: next() < 0.6 ? order : shuffled(order, next) };
}
