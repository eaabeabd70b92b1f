import { type Said, said } from "@/core/said";

/** How far a quiz is, in a word or two. */
export const STAFF_STATES: { readonly [S in "coming" | "open" | "closed" | "marked" | "returned"]: Said } = {
  coming: said("ui.staff-states.coming"),
  open: said("ui.staff-states.open"),
  closed: said("ui.staff-states.closed-to-mark"),
  marked: said("ui.staff-states.all-marked"),
  returned: said("ui.staff-states.returned"),
};
