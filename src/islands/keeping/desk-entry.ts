import type { JournalEntry } from "@/core/journal/merge";
import type { HeldEntry } from "./device-store";

/** An entry of a desk as the device holds it, with the fields that the server takes. */
export const deskEntry = (held: HeldEntry): JournalEntry => {
  const { slot, answer, ribbon, ruledOut, revision, device, writtenAt } = held as HeldEntry & JournalEntry;
  return { slot, answer, ribbon: ribbon ?? false, ruledOut, revision, device, writtenAt };
};
