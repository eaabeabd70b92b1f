import { sql } from "drizzle-orm";
import { client, type Queryable } from "@/data/database";
import { log } from "./log";

const CHANNEL = "desks";

type Listener = () => void;
const listeners = new Map<string, Set<Listener>>();
let listening: Promise<unknown> | null = null;

/** Tells every open desk of a quiz, in every process, to look again; sent when the transaction is committed. */
export async function tellDesks(db: Queryable, quizId: string): Promise<void> {
  await db.execute(sql`select pg_notify(${CHANNEL}, ${quizId})`);
}

/** Calls back whenever the desks of a quiz are told something; answers how to stop. One connection serves the process. */
export async function onDesksTold(quizId: string, listener: Listener): Promise<() => void> {
  const those = listeners.get(quizId) ?? new Set();
  listeners.set(quizId, those.add(listener));
  listening ??= client()
    .listen(CHANNEL, (told) => {
      for (const each of listeners.get(told) ?? []) each();
    })
    .catch((error) => {
      listening = null;
      log.error({ err: error }, "cannot listen for the desks; they ask by themselves");
    });
  await listening;
  return () => {
    those.delete(listener);
    if (those.size === 0) listeners.delete(quizId);
  };
}
