import type { MarkedPart, MarkedQuestion } from "../kinds/kind";
import { wholeOf } from "../kinds/whole";
import { atLeast, type Exact, exact, ONE, written, ZERO } from "../numbers/exact";
import type { TryRules } from "../quiz/rules";
import { counted } from "../time/words";

/** What trying has come to for one part. */
export interface PartTries {
  /** Different wrong answers that were checked. */
  readonly wrong: number;
  /** Tries that are left; 0 once it is right or they are used up. */
  readonly left: number;
  readonly right: boolean;
  /** What the part is worth now, as a share of its marks. */
  readonly worth: Exact;
  /** "second try", "wrong, costs 1/4, 2 left", ... */
  readonly words: string;
}

const isTry = (part: MarkedPart): boolean => part.state !== "empty" && part.state !== "awaits";
const isRight = (part: MarkedPart): boolean => part.state === "full";
const identityOf = (part: MarkedPart): string => part.identity ?? part.written;

/**
 * The tries at each part, from the markings of what was checked, in order: `credit = max(0, credit - c * wrong tries)`.
 * The same wrong answer again is not a new try, an empty or unreadable one is none, and after a right one nothing counts.
 */
export function triesOf(checks: readonly MarkedQuestion[], rules: TryRules): PartTries[] {
  const parts = checks[0]?.parts.length ?? 0;
  return Array.from({ length: parts }, (_, i) => {
    const wrong = new Set<string>();
    let right = false;
    for (const check of checks) {
      const part = check.parts[i];
      if (!part || right || !isTry(part) || wrong.size >= rules.most) continue;
      if (isRight(part)) right = true;
      else wrong.add(identityOf(part));
    }
    const worth = atLeast(ONE.sub(exact(rules.cost).mul(wrong.size)), ZERO);
    const left = right ? 0 : rules.most - wrong.size;
    return { wrong: wrong.size, left, right, worth, words: tryWords(wrong.size, left, right, worth, rules) };
  });
}

function tryWords(wrong: number, left: number, right: boolean, worth: Exact, rules: TryRules): string {
  if (right)
    return wrong === 0 ? "right, first try" : `right, after ${counted(wrong, "wrong try", "wrong tries")}`;
  if (wrong === 0)
    return `${counted(left, "try", "tries")}, each wrong one costs ${exact(rules.cost).toFraction()} of this part`;
  if (worth.equals(ZERO)) return `wrong; this part is worth nothing any more`;
  const more = left > 0 ? `${left} left` : "no tries left";
  return `wrong, costs ${exact(rules.cost).toFraction()} of this part; ${more}`;
}

/** A marked question with the cost of its wrong tries taken off, part by part, each saying so. */
export function withTries(marked: MarkedQuestion, tries: readonly PartTries[]): MarkedQuestion {
  const parts = marked.parts.map((part, i): MarkedPart => {
    const tried = tries[i];
    const maximum = exact(part.maximum);
    if (
      !tried ||
      tried.wrong === 0 ||
      part.state === "awaits" ||
      part.state === "empty" ||
      maximum.n === 0n
    ) {
      return tried?.right ? { ...part, why: `${part.why}, first try` } : part;
    }
    const credit = exact(part.marks).div(maximum);
    const lost = ONE.sub(tried.worth);
    const after = atLeast(credit.sub(lost), ZERO);
    const state = after.equals(ZERO) ? "none" : after.equals(ONE) ? "full" : "part";
    const cost = `${counted(tried.wrong, "wrong try", "wrong tries")}, ${lost.toFraction()} of the part lost`;
    return { ...part, marks: written(maximum.mul(after)), state, why: `${part.why}; ${cost}` };
  });
  return wholeOf(exact(marked.maximum), parts);
}
