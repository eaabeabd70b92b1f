import type { KindName } from "@/core/kinds/answering";

/** What is said wherever questions are answered, whatever their kinds. */
const EVERYWHERE: readonly string[] = [
  "attempt.answered-words",
  "attempt.order",
  "attempt.tries",
  "count",
  "files",
  "formula",
  "joint",
  "kinds.accepted-texts",
  "kinds.common",
  "kinds.marking",
  "kinds.part-verdict",
  "kinds.picks",
  "kinds.question-material",
  "kinds.question-number",
  "kinds.registry",
  "text.matching",
  "text.word-count",
  "time",
  "ui.confirm",
  "ui.requests",
];

/** What only some kinds say beside their own. */
const BESIDE: { readonly [K in KindName]?: readonly string[] } = {
  numeric: ["numbers.read-number", "numbers.units", "units"],
  essay: ["text.formulas"],
};

const ofKinds = (kinds: readonly KindName[]): string[] =>
  [...new Set(kinds)].sort().flatMap((kind) => [`kinds.${kind}`, ...(BESIDE[kind] ?? [])]);

/** The rooms of the catalogue whose words a desk needs. @param kinds those of the questions that it may show */
export const deskWords = (kinds: readonly KindName[], hasCalculator: boolean): string[] => [
  ...EVERYWHERE,
  "desk",
  "keeping",
  ...ofKinds(kinds),
  ...(hasCalculator ? ["numbers.calculate", "numbers.formula"] : []),
];

/** The same for practice. */
export const practiceWords = (kinds: readonly KindName[]): string[] => [
  ...EVERYWHERE,
  "desk.told-panel",
  "practice.practice",
  ...ofKinds(kinds),
];
