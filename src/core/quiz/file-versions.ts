import { isRecord } from "../kinds/answer-reading";
import { type Said, said } from "../said";
import { SETTINGS } from "./rules";

const OWN: ReadonlySet<string> = new Set(SETTINGS);

interface WorkedWith {
  /** As it is worked with, as far as it is one. */
  readonly file: unknown;
  /** What stands in the wrong half of its rules. */
  readonly misplaced: readonly { readonly path: string; readonly message: Said }[];
  /** Where a place of what is worked with is in the file. */
  readonly placeOf: (path: string) => string;
}

/**
 * A quiz file as it is worked with, its rules in one. Version 2 has them apart: `rules` are fixed with each version of the
 * quiz, `settings` are the quiz's own and may be set anew at any time. Version 1 had them together.
 */
export function asWorkedWith(value: unknown): WorkedWith {
  if (!isRecord(value) || value.version !== 2) return { file: value, misplaced: [], placeOf: (path) => path };
  const { settings, rules, ...rest } = value;
  const [own, desk] = [isRecord(settings) ? settings : {}, isRecord(rules) ? rules : {}];
  const misplaced = [
    ...Object.keys(own)
      .filter((name) => !OWN.has(name))
      .map((name) => ({ path: `settings.${name}`, message: said("quiz.file-versions.belongs-to-rules") })),
    ...Object.keys(desk)
      .filter((name) => OWN.has(name))
      .map((name) => ({ path: `rules.${name}`, message: said("quiz.file-versions.belongs-to-settings") })),
    ...(settings === undefined || isRecord(settings)
      ? []
      : [{ path: "settings", message: said("quiz.file-versions.must-be-an-object") }]),
  ];
  return {
    file: {
      ...rest,
      version: 1,
      rules: rules === undefined || isRecord(rules) ? { ...desk, ...own } : rules,
    },
    misplaced,
    placeOf: (path) => {
      const [, name = ""] = /^rules\.(\w+)/.exec(path) ?? [];
      return OWN.has(name) ? path.replace(/^rules\./, "settings.") : path;
    },
  };
}
