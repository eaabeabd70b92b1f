import type { Fill } from "../kinds/kind";
import type { QuizContent } from "../quiz/quiz-file";
import type { DeskRules } from "../quiz/rules";
import { type Said, said, saidTogether } from "../said";

/** The slots that are on one page together, in order: a page each. */
export function pagesOf(quiz: QuizContent, slots: number): number[][] {
  const all = Array.from({ length: slots }, (_, i) => i + 1);
  const paging = quiz.rules.paging ?? "question";
  if (paging === "all") return [all];
  if (paging === "question") return all.map((slot) => [slot]);
  let next = 0;
  return quiz.sections
    .map((section) => {
      const count = section.draw ?? section.questions.length;
      next += count;
      return all.slice(next - count, next);
    })
    .filter((page) => page.length > 0);
}

/** Whether a slot can be seen and written now. */
export type SlotAccess = "open" | "closed" | "ahead";

type OrderRules = Pick<DeskRules, "order" | "answerBeforeMovingOn" | "tellAtOnce">;

/**
 * What the page that was reached says about the others. `free`: nothing. `up-to`: what is after it is not sent yet,
 * because an answer is asked for before moving on. `one-way`: what is before it is closed, too.
 */
export type OrderRule = "free" | "up-to" | "one-way";

/** @example orderRuleOf({ order: "free", answerBeforeMovingOn: true }) → "up-to" */
export const orderRuleOf = ({ order, answerBeforeMovingOn }: OrderRules): OrderRule =>
  order === "one-way" ? "one-way" : answerBeforeMovingOn ? "up-to" : "free";

/**
 * Whether turning a page is for the server to decide, because it closes, tells or opens something.
 * @example serverTurnsPages({ order: "one-way" }) → true
 */
export const serverTurnsPages = (rules: OrderRules): boolean =>
  orderRuleOf(rules) !== "free" || rules.tellAtOnce === true;

/**
 * Whether ribbons are offered: not where a question that is left cannot be come back to.
 * @example offersRibbons({ order: "one-way", paging: "question" }) → false
 */
export const offersRibbons = (rules: Pick<DeskRules, "order" | "ribbon" | "paging">): boolean =>
  (rules.ribbon ?? true) && (rules.order === "free" || (rules.paging ?? "question") !== "question");

/** How far an attempt has come: the page that was reached, counted from 0, the slots that were told, and those that checking closed. */
export interface Reached {
  readonly page: number;
  readonly told: ReadonlySet<number>;
  readonly checkedOff: ReadonlySet<number>;
}

/**
 * Where a slot stands, by its page and the one that was reached. What was told or checked off is closed in any order.
 * @example slotAccessOn("one-way", 0, 1, false) → "closed"
 */
export function slotAccessOn(rule: OrderRule, page: number, reached: number, isDone: boolean): SlotAccess {
  if (rule !== "free" && page > reached) return "ahead";
  return isDone || (rule === "one-way" && page < reached) ? "closed" : "open";
}

/**
 * Where each slot stands.
 * @example slotAccesses({ order: "one-way" }, [[1], [2], [3]], { page: 1, told: new Set(), checkedOff: new Set() }) → new Map([[1, "closed"], [2, "open"], [3, "ahead"]])
 */
export function slotAccesses(
  rules: OrderRules,
  pages: readonly (readonly number[])[],
  reached: Reached,
): Map<number, SlotAccess> {
  const rule = orderRuleOf(rules);
  const states = new Map<number, SlotAccess>();
  for (const [index, page] of pages.entries()) {
    for (const slot of page) {
      const isTold = rules.tellAtOnce === true && reached.told.has(slot);
      states.set(slot, slotAccessOn(rule, index, reached.page, isTold || reached.checkedOff.has(slot)));
    }
  }
  return states;
}

export type MoveRuling =
  | { readonly may: true }
  | { readonly may: false; readonly rule: string; readonly words: Said };

/** "4 (2 of 3 matched)": a question that is answered in part, with what there is of it. */
const partWords = (slot: number, fills: ReadonlyMap<number, Fill>): Said => {
  const fill = fills.get(slot);
  return fill?.state === "part" ? said("attempt.order.part-of", { slot, words: fill.words }) : String(slot);
};

/** What there is of the questions that are answered in part, behind their numbers; "" where nothing is. */
function missingWords(slots: readonly number[], fills: ReadonlyMap<number, Fill>): Said {
  const parts = slots.filter((slot) => fills.get(slot)?.state === "part");
  const [only] = slots;
  if (slots.length === 1 && only !== undefined && parts.length === 1) return fills.get(only)?.words ?? "";
  return saidTogether(
    parts.map((slot) => partWords(slot, fills)),
    "commas",
  );
}

/** Whether a student may go from one page to another (counted from 0). */
export function rulingOnMove(terms: {
  readonly rules: OrderRules;
  readonly from: number;
  readonly to: number;
  readonly pages: readonly (readonly number[])[];
  /** The page that was reached. */
  readonly reached: number;
  /** How far each slot is answered. */
  readonly fills: ReadonlyMap<number, Fill>;
}): MoveRuling {
  const { rules, from, to, pages, reached, fills } = terms;
  const not = (rule: string, words: Said): MoveRuling => ({ may: false, rule, words });
  // Where each question is told, the last page can be left as well: for what is told of it.
  const end = rules.tellAtOnce && to === from + 1 ? pages.length + 1 : pages.length;
  if (to < 0 || to >= end) return not("no-page", said("attempt.order.there-is-no-such-page"));
  if (rules.order === "one-way" && to < from) {
    return not("one-way", said("attempt.order.this-quiz-goes-one-way-a"));
  }
  if (rules.order === "one-way" && to > from + 1) {
    return not("one-way", said("attempt.order.this-quiz-goes-one-way-the"));
  }
  const opens = to > reached && to < pages.length;
  if (rules.answerBeforeMovingOn && opens && to > reached + 1) {
    return not("answer-first", said("attempt.order.the-next-question-opens-when-those"));
  }
  // What opens a page asks for everything before it; going back and forth among open pages asks for the one that is left.
  const before = opens ? pages.slice(0, to).flat() : (pages[from] ?? []);
  const open = before.filter((slot) => fills.get(slot)?.state !== "full");
  if (rules.answerBeforeMovingOn && to > from && open.length > 0) {
    const which =
      open.length === 1
        ? said("attempt.order.question-is", { open: open[0] ?? 0 })
        : said("attempt.order.questions-are", { slots: open.join(", ") });
    const missing = missingWords(open, fills);
    return not(
      "answer-first",
      missing === ""
        ? said("attempt.order.not-complete-this-quiz-asks-for", { which })
        : said("attempt.order.not-complete-what", { which, missing }),
    );
  }
  return { may: true };
}

/**
 * The slots of a page that leaving it tells: all of it one way, else what is completely answered.
 * @example toldOnLeaving({ order: "one-way", tellAtOnce: true }, [1], new Map([[1, { state: "empty", share: 0, words: "" }]])) → [1]
 */
export const toldOnLeaving = (
  rules: OrderRules,
  page: readonly number[],
  fills: ReadonlyMap<number, Fill>,
): number[] =>
  rules.tellAtOnce
    ? page.filter((slot) => rules.order === "one-way" || fills.get(slot)?.state === "full")
    : [];

/** What is said before a page is left for good: which questions close, and which of them are still empty. */
export function closingWords(page: readonly number[], fills: ReadonlyMap<number, Fill>): Said {
  if (page.length === 0) return "";
  const [first = 0, last = 0] = [page[0], page.at(-1)];
  const empty = page.filter((slot) => (fills.get(slot)?.state ?? "empty") === "empty");
  const part = page.filter((slot) => fills.get(slot)?.state === "part");
  const closes =
    page.length === 1
      ? said("attempt.order.one-closes", { slot: first })
      : said(page.length === 2 ? "attempt.order.two-close" : "attempt.order.several-close", { first, last });
  return saidTogether(
    [
      closes,
      empty.length > 0
        ? said("attempt.order.still-empty", { slots: saidTogether(empty.map(String), "commas") })
        : "",
      part.length > 0
        ? said("attempt.order.not-complete", {
            slots: saidTogether(
              part.map((slot) => partWords(slot, fills)),
              "commas",
            ),
          })
        : "",
    ],
    "sentences",
  );
}
