import type { SlotState } from "../desk/desk-state";
import { Spine } from "../desk/Spine";

const EMPTY: SlotState = {
  standing: "open",
  question: null,
  answer: null,
  folded: false,
  ruledOut: [],
  fill: { state: "empty", words: "empty" },
  told: null,
  tries: null,
  saved: true,
};
const ANSWERED: SlotState = { ...EMPTY, fill: { state: "full", words: "answered" } };

const FORMS = {
  empty: EMPTY,
  full: ANSWERED,
  folded: { ...ANSWERED, folded: true },
  here: ANSWERED,
  unsaved: { ...ANSWERED, saved: false },
  closed: { ...ANSWERED, standing: "closed" },
  ahead: { ...EMPTY, standing: "ahead" },
} as const satisfies Record<string, SlotState>;

/** A spine as the desk shows it, only to be looked at. */
export function SampleSpine({ form }: { readonly form: keyof typeof FORMS }) {
  return (
    <span className="flex h-14 items-end border-b border-line-2 px-2" inert aria-hidden="true">
      <Spine slot={4} spine={FORMS[form]} here={form === "here"} onGo={() => {}} />
    </span>
  );
}
