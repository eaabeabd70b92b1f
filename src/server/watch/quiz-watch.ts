import { eq } from "drizzle-orm";
import { partOf, type Sitting, TRACE_PARTS } from "@/core/watch/watch-line";
import { database } from "@/data/database";
import { quiz } from "@/data/schema";
import { now } from "../base/clock";
import { log } from "../base/log";
import { sittingsOf } from "./sittings";
import { tracesOf } from "./traces";

/** Between two looks at how everyone is, in ms; once for all who watch the same quiz in this process. */
const LOOK_EVERY = 1_200;

/** What somebody who watches is told: everyone at first, then those who are other than they were. */
export interface WatchNews {
  readonly all: boolean;
  readonly at: number;
  readonly sittings: readonly Sitting[];
}

type Listener = (news: WatchNews) => void;

/** Looks at a quiz that runs for as long as somebody watches it. */
class QuizWatch {
  readonly #listeners = new Set<Listener>();
  /** How everyone was when it was looked last, by attempt; null: not yet. */
  #known: Map<string, { readonly sitting: Sitting; readonly text: string }> | null = null;
  #traces = new Map<string, number[]>();
  #timer: ReturnType<typeof setTimeout> | undefined;
  #looking = false;

  constructor(readonly quizId: string) {}

  add(listener: Listener): void {
    this.#listeners.add(listener);
    if (this.#known) listener({ all: true, at: now(), sittings: this.#everyone() });
    else if (!this.#looking) void this.#look();
  }

  /** Returns whether anybody is left. */
  remove(listener: Listener): boolean {
    this.#listeners.delete(listener);
    if (this.#listeners.size > 0) return true;
    clearTimeout(this.#timer);
    return false;
  }

  #everyone = (): Sitting[] => [...(this.#known?.values() ?? [])].map(({ sitting }) => sitting);

  async #look(): Promise<void> {
    this.#looking = true;
    try {
      await this.#readAndTell();
    } catch (error) {
      log.warn({ err: error, quizId: this.quizId }, "a quiz could not be looked at for those who watch it");
    }
    this.#looking = false;
    if (this.#listeners.size > 0) this.#timer = setTimeout(() => void this.#look(), LOOK_EVERY).unref();
  }

  async #readAndTell(): Promise<void> {
    const [row] = await database()
      .select({ id: quiz.id, opens: quiz.opens })
      .from(quiz)
      .where(eq(quiz.id, this.quizId));
    if (!row) return;
    const sittings = await sittingsOf(row);
    if (this.#known === null) this.#traces = await tracesOf(this.quizId, sittings);
    const before = this.#known;
    const known = new Map<string, { sitting: Sitting; text: string }>();
    const changed: Sitting[] = [];
    for (const each of sittings) {
      const held = before?.get(each.attemptId);
      this.#count(each, held?.sitting);
      const sitting = { ...each, trace: [...(this.#traces.get(each.attemptId) ?? [])] };
      const text = JSON.stringify(sitting);
      known.set(each.attemptId, { sitting, text });
      if (held?.text !== text) changed.push(sitting);
    }
    this.#known = known;
    if (before !== null && changed.length === 0) return;
    const news = { all: before === null, at: now(), sittings: before === null ? this.#everyone() : changed };
    for (const listener of this.#listeners) listener(news);
  }

  /** Questions that got their first words since it was looked last go into the trace. */
  #count(sitting: Sitting, before: Sitting | undefined): void {
    const { attemptId, savedAt, answered } = sitting;
    const more = answered - (before?.answered ?? 0);
    const trace = this.#traces.get(attemptId) ?? Array<number>(TRACE_PARTS).fill(0);
    this.#traces.set(attemptId, trace);
    if (this.#known === null || savedAt === null || more <= 0) return;
    const part = partOf(savedAt, sitting);
    trace[part] = (trace[part] ?? 0) + more;
  }
}

const watches = new Map<string, QuizWatch>();

/** Calls back with how everyone at a quiz is, at once and whenever that changes; returns how to stop. */
export function watchQuiz(quizId: string, listener: Listener): () => void {
  const watch = watches.get(quizId) ?? new QuizWatch(quizId);
  watches.set(quizId, watch);
  watch.add(listener);
  return () => {
    if (!watch.remove(listener)) watches.delete(quizId);
  };
}
