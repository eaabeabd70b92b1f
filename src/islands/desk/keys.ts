/** What can be done by keys where one is. */
export interface KeysHere {
  /** The kind of options of the question that is here: one is picked, several are, or there are none. */
  readonly options: "one" | "several" | null;
  readonly rulesOut: boolean;
  readonly ribbons: boolean;
  readonly turns: boolean;
}

/** Everything that keys can do at the desk. */
export const ALL_KEYS: KeysHere = { options: "one", rulesOut: true, ribbons: true, turns: true };

/** The keys that do something where one is, as they are told. Turning has keys of its own, which never change an answer. */
export function keysHere({ options, rulesOut, ribbons, turns }: KeysHere): [keys: string, what: string][] {
  return [
    ...(turns ? ([["J, K", "next question, question before"]] as const) : []),
    ...(options ? ([["A to I, or 1 to 9", "pick that option"]] as const) : []),
    ...(options === "one"
      ? ([["arrows, on an option", "the option above or below, and picks it"]] as const)
      : []),
    ...(options === "several"
      ? ([["Tab and space, on an option", "go to an option, pick it or take it back"]] as const)
      : []),
    ...(rulesOut ? ([["X, then A to I", "rule that option out, or bring it back"]] as const) : []),
    ...(ribbons ? ([["R", "lay a ribbon, or take it away"]] as const) : []),
    ["Ctrl + S", "save now"],
    ["?", "show these keys"],
  ].map(([keys, what]) => [keys, what]) as [string, string][];
}
