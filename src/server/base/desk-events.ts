import { sql } from "drizzle-orm";
import { client, type Queryable } from "@/data/database";
import { log } from "./log";

/** What is told goes over one channel of the database: "quiz ID", or "attempt ID DEVICE" ("-": no device). */
export const DESKS_CHANNEL = "desks";

/** Called with the device that caused it, or null. */
type Listener = (device: string | null) => void;
const listeners = new Map<string, Set<Listener>>();
let listening: Promise<unknown> | null = null;

/** Tells every open desk of a quiz, in every process, to look again; sent when the transaction is committed. */
export async function signalDesks(db: Queryable, quizId: string): Promise<void> {
  await db.execute(sql`select pg_notify(${DESKS_CHANNEL}, ${`quiz ${quizId}`})`);
}

/** Tells the other open desks of one attempt to look again. @param device the one that knows already. */
export async function signalAttempt(db: Queryable, attemptId: string, device: string | null): Promise<void> {
  await db.execute(sql`select pg_notify(${DESKS_CHANNEL}, ${`attempt ${attemptId} ${device ?? "-"}`})`);
}

/** Tells the open desks of several attempts in one statement. */
export async function signalAttempts(db: Queryable, attemptIds: readonly string[]): Promise<void> {
  await db.execute(sql`select pg_notify(${DESKS_CHANNEL}, 'attempt ' || id || ' -')
    from jsonb_array_elements_text(${JSON.stringify(attemptIds)}::jsonb) as told(id)`);
}

function passOn(told: string): void {
  const [what = "", id = "", device = "-"] = told.split(" ");
  for (const each of listeners.get(`${what} ${id}`) ?? []) each(device === "-" ? null : device);
}

function add(name: string, listener: Listener): () => void {
  const those = listeners.get(name) ?? new Set();
  listeners.set(name, those.add(listener));
  return () => {
    those.delete(listener);
    if (those.size === 0) listeners.delete(name);
  };
}

/**
 * Calls back whenever the desks of a quiz, or those of one of its attempts, are told something; returns how to stop. One
 * connection serves the process.
 */
export async function onDesksSignalled(
  quizId: string,
  attemptId: string,
  listener: Listener,
): Promise<() => void> {
  const stops = [add(`quiz ${quizId}`, listener), add(`attempt ${attemptId}`, listener)];
  listening ??= client()
    .listen(DESKS_CHANNEL, passOn)
    .catch((error) => {
      listening = null;
      log.error({ err: error }, "cannot listen for the desks; they ask by themselves");
    });
  await listening;
  return () => {
    for (const stop of stops) stop();
  };
}
