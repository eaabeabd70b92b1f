import { identityOf, type MarkedPart, type MarkedQuestion } from "../kinds/kind";
import { wholeOf } from "../kinds/whole-mark";
import { atLeast, type Exact, exact, ONE, written, ZERO } from "../numbers/exact";
import type { TryRules } from "../quiz/rules";
import { type Said, said } from "../said";

/** What trying has come to for one part. */
export interface PartTries {
  /** Different wrong answers that were checked. */
  readonly wrong: number;
  /** Tries that are left; 0 once it is right or they are used up. */
  readonly left: number;
  readonly right: boolean;
  /** The check that closed it: the one that was right, or the last wrong one; null while it is open. */
  readonly closedBy: { readonly check: number; readonly part: MarkedPart } | null;
  /** What the part is worth now, as a share of its marks. */
  readonly worth: Exact;
  /** "right, first try", "wrong, costs 1/4 of this part; 2 left", ... */
  readonly words: Said;
}

/** What is not complete (unreadable, without its unit, with too few figures) is said and is not a try. */
const isTry = (part: MarkedPart): boolean =>
  part.state !== "empty" && part.state !== "awaits" && part.incomplete === undefined;
const isRight = (part: MarkedPart): boolean => part.state === "full";

/**
 * The tries at each part, from the markings of what was checked, in order: `credit = max(0, credit - c * wrong tries)`.
 * The same wrong answer again is not a new try. A part that was right is closed as right; one whose tries are used up is
 * closed and worth nothing.
 */
export function triesOf(checks: readonly MarkedQuestion[], rules: TryRules): PartTries[] {
  const parts = checks[0]?.parts.length ?? 0;
  return Array.from({ length: parts }, (_, i) => {
    const wrong = new Set<string>();
    let right = false;
    let closedBy: PartTries["closedBy"] = null;
    for (const [check, marked] of checks.entries()) {
      const part = marked.parts[i];
      if (closedBy || !part || !isTry(part)) continue;
      if (isRight(part)) right = true;
      else wrong.add(identityOf(part));
      if (right || wrong.size >= rules.most) closedBy = { check, part };
    }
    const paid = atLeast(ONE.sub(exact(rules.cost).mul(wrong.size)), ZERO);
    const worth = closedBy && !right ? ZERO : paid;
    const left = right ? 0 : rules.most - wrong.size;
    const words = tryWords(wrong.size, left, right, worth, rules);
    return { wrong: wrong.size, left, right, closedBy, worth, words };
  });
}

function tryWords(wrong: number, left: number, right: boolean, worth: Exact, rules: TryRules): Said {
  if (right)
    return wrong === 0
      ? said("attempt.tries.right-first-try")
      : said("attempt.tries.right-after-other", { wrong });
  if (wrong === 0)
    return said("attempt.tries.other-each-wrong-one-costs-of", {
      left,
      share: exact(rules.cost).toFraction(),
    });
  if (left === 0) return said("attempt.tries.wrong-no-tries-left-this-part");
  if (worth.equals(ZERO)) return said("attempt.tries.wrong-this-part-is-worth-nothing", { left });
  return said("attempt.tries.wrong-costs-of-this-part-left", {
    share: exact(rules.cost).toFraction(),
    left,
  });
}

/** A marked part as it stands when its attempt ends: closed as it was checked, or marked now less what its tries cost. */
function partWithTries(part: MarkedPart, tried: PartTries | undefined): MarkedPart {
  if (!tried) return part;
  const held = tried.closedBy?.part ?? part;
  const maximum = exact(held.maximum);
  const tries = said("attempt.tries.wrong-count", { wrong: tried.wrong });
  if (tried.closedBy && !tried.right) {
    return {
      ...held,
      marks: "0",
      state: "none",
      why: said("attempt.tries.none-left-worth-nothing", { why: held.why, tries }),
    };
  }
  if (tried.wrong === 0)
    return tried.right ? { ...held, why: said("attempt.tries.first-try", { why: held.why }) } : held;
  if (held.state === "awaits" || held.state === "empty" || maximum.n === 0n) return held;
  const lost = ONE.sub(tried.worth);
  const after = atLeast(exact(held.marks).div(maximum).sub(lost), ZERO);
  const state = after.equals(ZERO) ? "none" : after.equals(ONE) ? "full" : "part";
  const why = said("attempt.tries.of-the-part-lost", { why: held.why, tries, share: lost.toFraction() });
  return { ...held, marks: written(maximum.mul(after)), state, why };
}

/** A marked question with its tries: closed parts as they were closed, the others with what wrong tries cost taken off. */
export const withTries = (marked: MarkedQuestion, tries: readonly PartTries[]): MarkedQuestion =>
  wholeOf(
    exact(marked.maximum),
    marked.parts.map((part, i) => partWithTries(part, tries[i])),
  );
