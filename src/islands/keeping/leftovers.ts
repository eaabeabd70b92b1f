import type { SaveReceipt } from "@/core/desk/desk-view";
import type { JournalEntry } from "@/core/journal/merge";
import { ask, Refusal } from "@/ui/requests";
import { deskEntry } from "./desk-entry";
import { Journal } from "./journal";

/**
 * Delivers what the journal of this device holds of an attempt that is over: one request for each writer, so that no slot
 * stands twice in one. Returns the slots that became late writing; what was written after the end stays on the device.
 */
export async function deliverLeftovers(attemptId: string): Promise<number[]> {
  const journal = new Journal(attemptId, deskEntry);
  const left = (await journal.read()).filter((entry) => !entry.acknowledged);
  const byDevice = new Map<string, JournalEntry[]>();
  for (const { attemptId: _, acknowledged: __, ...entry } of left) {
    byDevice.set(entry.device, [...(byDevice.get(entry.device) ?? []), entry]);
  }
  const late: number[] = [];
  for (const entries of byDevice.values()) {
    try {
      const receipt = await ask<SaveReceipt>(`/api/attempts/${attemptId}/save`, {
        body: { here: 1, entries },
      });
      // It was taken back meanwhile, and runs again.
      for (const { slot, device, revision } of receipt.saved)
        await journal.acknowledge(slot, device, revision);
    } catch (error) {
      // Refused is what is expected here: the attempt is over. Without a connection it is tried at the next visit.
      if (!(error instanceof Refusal) || !Array.isArray(error.more.late)) continue;
      for (const { slot, device, revision } of error.more.late as JournalEntry[]) {
        await journal.acknowledge(slot, device, revision);
        late.push(slot);
      }
    }
  }
  return late;
}
