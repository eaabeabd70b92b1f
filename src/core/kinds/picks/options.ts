import * as yup from "yup";
import { type AttemptSeed, shuffled } from "../../numbers/seeded";
import { type Said, said } from "../../said";
import { plainText } from "../../text/plain-text";
import { exactObject, identifier, richText } from "../shapes";
import { type OptionContent, type PresentedOption, presentContent } from "./content";

/** An option as its author wrote it: with what makes it right. */
export interface Option extends OptionContent {
  readonly id: string;
  readonly right?: boolean | undefined;
  /** Stays at the end when the others are shuffled ("none of these"). */
  readonly last?: boolean | undefined;
  /** Said to who picked it; rich text. */
  readonly feedback?: string | undefined;
}

export const contentFields = {
  text: richText().defined(said("quiz-file.kinds.picks.options.is-missing-what-the-option-says")),
  formula: yup.string().strict().max(2_000),
  picture: identifier().optional(),
};

/** A shape of something that is shown: with words, a formula or a picture, or some of them, and not with none. */
export const shownShape = <S extends yup.ObjectShape>(fields: S) =>
  exactObject(fields).test(
    "shows-something",
    said("quiz-file.kinds.picks.options.is-missing-what-the-option-says"),
    (content) => {
      const { text, formula, picture } = (content ?? {}) as Partial<OptionContent>;
      // An absent text is another mistake, and said as such.
      return text === undefined || plainText(text).trim() !== "" || Boolean(formula) || picture !== undefined;
    },
  );

export const optionFields = {
  id: identifier(),
  ...contentFields,
  right: yup.boolean().strict(),
  last: yup.boolean().strict(),
  feedback: richText(),
};

/** The options in the order of this attempt, those that stay last at the end. */
export function presentOptions(
  question: {
    readonly id: string;
    readonly options: readonly Option[];
    readonly keepOrder?: boolean | undefined;
  },
  seed: AttemptSeed,
): PresentedOption[] {
  const moving = question.options.filter((option) => !option.last);
  const order = question.keepOrder ? moving : shuffled(moving, seed.chance("options", question.id));
  return [...order, ...question.options.filter((option) => option.last)].map((option) => ({
    id: seed.name(question.id, option.id),
    ...presentContent(option, seed),
  }));
}

/** How much longer than the longest wrong option a right one may be before it gives itself away. */
const GIVEAWAY = 1.4;
/** Options shorter than this, in characters, are not compared by their length. */
const SHORT = 18;

const lengthOf = (option: OptionContent): number => plainText(option.text).length;

/**
 * What an author of options should look at again: two that say the same, a right one that is the longest by far, and a
 * wrong one that says nothing to who picks it.
 */
export function optionWarnings(options: readonly Option[]): Said[] {
  const shown = options.map(
    ({ text, formula, picture }) => `${plainText(text).toLowerCase()} ${formula} ${picture}`,
  );
  const warnings: Said[] = [];
  if (new Set(shown).size < shown.length)
    warnings.push(said("quiz-file.kinds.picks.options.two-say-the-same"));
  const longestWrong = Math.max(...options.filter(({ right }) => !right).map(lengthOf));
  const rights = options.filter(({ right }) => right).map(lengthOf);
  if (rights.length === 1 && (rights[0] ?? 0) > Math.max(SHORT, longestWrong * GIVEAWAY))
    warnings.push(said("quiz-file.kinds.picks.options.the-right-one-is-the-longest"));
  const silent = options.filter(({ right, feedback }) => !right && !feedback).length;
  if (silent > 0) warnings.push(said("quiz-file.kinds.picks.options.say-nothing", { silent }));
  return warnings;
}
