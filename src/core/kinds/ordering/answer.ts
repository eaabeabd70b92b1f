import { said, saidTogether } from "../../said";
import { accept, emptyOrFull, fieldOf, refuse } from "../answer-reading";
import { CONTENT_FIELDS, PRESENTED_FIELDS } from "../fields";
import type { AnsweringKind, PresentedCommon } from "../kind";
import { contentInWords, type PresentedOption } from "../picks/content";

export interface PresentedOrdering extends PresentedCommon {
  readonly kind: "ordering";
  /** In the order in which they lie there at first. */
  readonly items: readonly PresentedOption[];
}

/** All items in the student's order, by their names within the attempt. */
export interface OrderingAnswer {
  readonly order: readonly string[];
}

export const orderingAnswering: AnsweringKind<PresentedOrdering, OrderingAnswer> = {
  name: "ordering",
  fields: { ...PRESENTED_FIELDS, items: [CONTENT_FIELDS] },
  instruction: () => said("kinds.ordering.answer.put-these-in-order"),
  readAnswer(presented, raw) {
    if (raw === null) return accept<OrderingAnswer>(null);
    const order = fieldOf(raw, "order");
    const known = new Set(presented.items.map(({ id }) => id));
    if (!Array.isArray(order) || order.length !== known.size || !order.every((id) => known.has(id))) {
      return refuse(said("kinds.ordering.answer.the-answer-must-list-every-item"));
    }
    return new Set(order).size === known.size
      ? accept({ order: order as string[] })
      : refuse(said("kinds.ordering.answer.the-answer-must-list-every-item"));
  },
  fill: (_, answer) => emptyOrFull(answer, said("kinds.ordering.answer.ordered")),
  summary(presented, answer) {
    return saidTogether(
      (answer?.order ?? []).map((id, i) => {
        const item = presented.items.find((each) => each.id === id);
        return said("kinds.ordering.answer.place", { place: i + 1, item: item ? contentInWords(item) : "" });
      }),
      "commas",
    );
  },
};
