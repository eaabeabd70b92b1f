import * as yup from "yup";
import { chance, opaqueName, shuffled } from "../../numbers/seeded";
import { identifier, richText } from "../shapes";

/** An option as its author wrote it: with what makes it right. */
export interface Option {
  readonly id: string;
  readonly text: string;
  readonly right?: boolean | undefined;
  /** Stays at the end when the others are shuffled ("none of these"). */
  readonly last?: boolean | undefined;
  /** Said to who picked it; rich text. */
  readonly feedback?: string | undefined;
}

/** An option as a student gets it: its name says nothing about where or how it was written. */
export interface PresentedOption {
  readonly id: string;
  readonly text: string;
}

export const optionFields = {
  id: identifier(),
  text: richText().required("is missing: what the option says"),
  right: yup.boolean().strict(),
  last: yup.boolean().strict(),
  feedback: richText(),
};

/** The name that an option has within one attempt. */
export const presentedName = (seed: string, question: string, option: string) =>
  opaqueName("option", seed, question, option);

/** The options in the order of this attempt, those that stay last at the end. */
export function presentOptions(
  question: {
    readonly id: string;
    readonly options: readonly Option[];
    readonly keepOrder?: boolean | undefined;
  },
  seed: string,
): PresentedOption[] {
  const moving = question.options.filter((option) => !option.last);
  const order = question.keepOrder ? moving : shuffled(moving, chance("options", seed, question.id));
  return [...order, ...question.options.filter((option) => option.last)].map((option) => ({
    id: presentedName(seed, question.id, option.id),
    text: option.text,
  }));
}
