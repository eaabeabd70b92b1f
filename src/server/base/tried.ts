import { type Database, inTransaction } from "@/data/database";

/** Thrown to undo what was only tried. */
class OnlyTried<T> extends Error {
  constructor(readonly found: T) {
    super("only tried");
  }
}

/**
 * What a change would do: it is made, looked at, and undone, so that what is said of it is what happens.
 * @throws whatever the change throws
 */
export async function tried<T>(change: (tx: Database) => Promise<T>): Promise<T> {
  try {
    await inTransaction(async (tx) => {
      throw new OnlyTried(await change(tx));
    });
  } catch (error) {
    if (error instanceof OnlyTried) return error.found as T;
    throw error;
  }
  throw new Error("What was only tried was kept.");
}
