import { isRefusedContent } from "../troubles";
import { type EntryToSave, type SaveOutcome, type SaveTerms, saveEntries } from "./save";

interface Unstorable {
  readonly entry: EntryToSave;
  readonly error: unknown;
}

/**
 * Saves entries as `saveEntries` does. If the database refuses what one of them holds, it refuses the whole statement: then
 * each is saved by itself, and those that cannot be stored are named.
 */
export async function saveStorable(
  terms: SaveTerms,
): Promise<{ readonly outcome: SaveOutcome; readonly unstorable: readonly Unstorable[] }> {
  try {
    return { outcome: await saveEntries(terms), unstorable: [] };
  } catch (error) {
    if (!isRefusedContent(error) || terms.entries.length === 0) throw error;
  }
  // Without entries it tells how the attempt stands, also where none of them can be stored.
  let outcome = await saveEntries({ ...terms, entries: [] });
  const unstorable: Unstorable[] = [];
  for (const entry of terms.entries) {
    try {
      outcome = joined(outcome, await saveEntries({ ...terms, entries: [entry] }));
    } catch (error) {
      if (!isRefusedContent(error)) throw error;
      unstorable.push({ entry, error });
    }
  }
  return { outcome, unstorable };
}

const joined = (before: SaveOutcome, after: SaveOutcome): SaveOutcome => ({
  ...after,
  attempt: after.attempt && {
    ...after.attempt,
    shut: [...(before.attempt?.shut ?? []), ...after.attempt.shut],
    clashing: [...(before.attempt?.clashing ?? []), ...after.attempt.clashing],
  },
  held: [...before.held, ...after.held],
});
