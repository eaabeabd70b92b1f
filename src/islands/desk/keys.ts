import { t } from "@/words/t";
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
    ...(turns ? ([["J, K", t("desk.keys.next-question-question-before")]] as const) : []),
    ...(options ? ([[t("desk.keys.a-to-i-or-1-to"), t("desk.keys.pick-that-option")]] as const) : []),
    ...(options === "one"
      ? ([[t("desk.keys.arrows-on-an-option"), t("desk.keys.the-option-above-or-below-and")]] as const)
      : []),
    ...(options === "several"
      ? ([[t("desk.keys.tab-and-space-on-an-option"), t("desk.keys.go-to-an-option-pick-it")]] as const)
      : []),
    ...(rulesOut
      ? ([[t("desk.keys.x-then-a-to-i"), t("desk.keys.rule-that-option-out-or-bring")]] as const)
      : []),
    ...(ribbons ? ([["R", t("desk.keys.lay-a-ribbon-or-take-it")]] as const) : []),
    [t("desk.keys.ctrl-s"), t("desk.keys.save-now")],
    ["?", t("desk.keys.show-these-keys")],
  ].map(([keys, what]) => [keys, what]) as [string, string][];
}
