import { said } from "@/core/said";
import type { SlotOnScreen } from "../desk/desk-state";
import { RowEntry } from "../desk/RowEntry";

const EMPTY: SlotOnScreen = {
  access: "open",
  question: null,
  answer: null,
  ribbon: false,
  ruledOut: [],
  fill: { state: "empty", words: "" },
  told: null,
  tries: null,
  isDeclaration: false,
  saved: true,
  elsewhere: null,
  keyed: null,
};
const ANSWERED: SlotOnScreen = { ...EMPTY, fill: { state: "full", words: "" } };

const FORMS = {
  empty: EMPTY,
  full: ANSWERED,
  part: { ...EMPTY, fill: { state: "part", share: 0.5, words: said("help.sample-entry.1-of-2-picked") } },
  ribbon: { ...EMPTY, ribbon: true },
  here: ANSWERED,
  unsaved: { ...ANSWERED, saved: false },
  closed: { ...ANSWERED, access: "closed" },
  ahead: { ...EMPTY, access: "ahead" },
} as const satisfies Record<string, SlotOnScreen>;

/** A question of the row as the desk shows it, only to be looked at. */
export function SampleEntry({ form }: { readonly form: keyof typeof FORMS }) {
  return (
    <span inert aria-hidden="true">
      <RowEntry slot={5} record={FORMS[form]} here={form === "here"} onGo={() => {}} />
    </span>
  );
}
