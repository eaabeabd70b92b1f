import * as yup from "yup";
import { exact, ONE, shown, ZERO } from "../../numbers/exact";
import { type AttemptSeed, shuffled } from "../../numbers/seeded";
import { said, saidTogether } from "../../said";
import { CONTENT_FIELDS, QUESTION_FIELDS } from "../fields";
import type { MarkingKind, QuestionCommon } from "../kind";
import { contentInWords, type OptionContent, presentContent } from "../picks/content";
import { contentFields, shownShape } from "../picks/options";
import { commonFields, exactObject, identifier, shapeOf, uniqueBy } from "../shapes";
import { wholeWithCredit } from "../whole-mark";
import type { OrderingAnswer, PresentedOrdering } from "./answer";

export interface Ordering extends QuestionCommon {
  readonly kind: "ordering";
  /** In the right order. */
  readonly items: readonly (OptionContent & { readonly id: string })[];
  /** All or nothing, or by the pairs that follow each other as in the key. */
  readonly credit: "exact" | "neighbours";
}

const shape = shapeOf<Ordering>(
  exactObject({
    ...commonFields("ordering"),
    credit: yup.string().strict().oneOf(["exact", "neighbours"]).required(),
    items: yup
      .array()
      .of(shownShape({ id: identifier(), ...contentFields }))
      .min(2, said("quiz-file.kinds.ordering.mark.must-have-at-least-two-items"))
      .max(26)
      .required()
      .test("ids", said("quiz-file.kinds.ordering.mark.must-have-items-with-different-ids"), uniqueBy("id")),
  }),
);

/** How many pairs follow each other as in the key. */
function neighboursOf(order: readonly number[]): number {
  return order.filter((place, i) => i > 0 && order[i - 1] === place - 1).length;
}

/** The items as they lie there at first: shuffled, but never in the right order by chance. */
function laidOut(question: Ordering, seed: AttemptSeed): Ordering["items"] {
  const order = shuffled(question.items, seed.chance("items", question.id));
  const isRight = order.every((item, i) => item === question.items[i]);
  return isRight ? [...order.slice(1), ...order.slice(0, 1)] : order;
}

export const orderingMarking: MarkingKind<Ordering, PresentedOrdering, OrderingAnswer> = {
  name: "ordering",
  fields: { ...QUESTION_FIELDS, items: [CONTENT_FIELDS] },
  shape,
  scoring: ({ credit }) =>
    credit === "exact"
      ? said("kinds.ordering.mark.marks-only-for-the-whole-order")
      : said("kinds.ordering.mark.each-two-that-rightly-follow-each"),
  present: (question, seed) => ({
    kind: "ordering",
    text: question.text,
    marks: shown(question.marks),
    items: laidOut(question, seed).map((item) => ({
      id: seed.name(question.id, item.id),
      ...presentContent(item, seed),
    })),
  }),
  mark(question, seed, answer) {
    const names = question.items.map((item) => seed.name(question.id, item.id));
    const order = (answer?.order ?? []).map((name) => names.indexOf(name));
    const pairs = neighboursOf(order);
    const most = question.items.length - 1;
    const all = answer !== null && pairs === most;
    const credit = all ? ONE : question.credit === "neighbours" ? exact(`${pairs}/${most}`) : ZERO;
    const words = (places: readonly number[]) =>
      saidTogether(
        places.map((place, i) =>
          said("kinds.ordering.answer.place", {
            place: i + 1,
            item: contentInWords(question.items[place] ?? { text: "" }),
          }),
        ),
        "commas",
      );
    const line = {
      written: words(order),
      right: words(question.items.map((_, i) => i)),
      why:
        answer === null
          ? said("kinds.common.empty-no-marks")
          : all
            ? said("kinds.common.right")
            : said("kinds.ordering.mark.of-follow-each-other-as-they", { pairs, most }),
      identity: order.join(" "),
    };
    return wholeWithCredit(
      exact(question.marks),
      answer === null ? ZERO : credit,
      line,
      answer === null ? "empty" : undefined,
    );
  },
  rightAnswer: (question, seed) => ({
    order: question.items.map((item) => seed.name(question.id, item.id)),
  }),
};
