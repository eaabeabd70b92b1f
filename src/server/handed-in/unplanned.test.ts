import { randomUUID } from "node:crypto";
import fc from "fast-check";
import { afterEach, expect, test, vi } from "vitest";
import { GRACE, MINUTE, SECOND } from "@/core/time/instants";
import { type DeskPhase, isWritable, phaseAfter, RUNNING } from "@/islands/desk/desk-phase";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";
import {
  KEYS,
  LIMIT,
  MOST_TRIES,
  type PlainAttempt,
  type PlainEntry,
  PlainQuiz,
  type PlainTerms,
} from "../../../tests/support/plain-rules";

/**
 * Sequences that nobody planned: two students, two devices each, one quiz, and everything that can happen to it in any
 * order. After every step what the application says is compared with the plain model.
 */
const sql = await ownDatabase();
const { viewer } = college(sql);
const { database, whileSaving } = await import("@/data/database");
const { startAttempt } = await import("../desk/start-attempt");
const { attemptPulse, confirmStart, openDesk } = await import("../desk/open-desk");
const { saveAnswers } = await import("../desk/save-answers");
const { moveOn } = await import("../desk/move-on");
const { checkAnswer } = await import("../desk/check-answer");
const { handInAttempt } = await import("../desk/hand-in");
const { takeBack } = await import("./take-back");
const { markedPaperOf } = await import("./marked-paper");
const { settle, sweep } = await import("../attempts/settle");
const { extendRunning } = await import("../quizzes/extend-running");
const { Problem } = await import("../base/problems");

const RUNS = 40;
const STEPS = 60;
const people = [await viewer("keziah.rowden"), await viewer("ottoline.diaz")] as const;
const instructor = await viewer("adaeze.okafor");
const [course] = await sql`select id from course where slug = 'pol-101'`;
// The driver gives and gets what it reads as text; the whole number of an instant is enough here.
const instant = (value: Date | null) => value?.getTime() ?? null;

afterEach(() => {
  vi.useRealTimers();
});

const at = (now: number) => vi.useFakeTimers({ toFake: ["Date"], now });

/** A device of a student: what it wrote, what of that it has not heard of yet, and what its desk shows. */
class Device {
  readonly id = randomUUID();
  readonly pending = new Map<number, PlainEntry>();
  phase: DeskPhase = RUNNING;
  attempt: string | null = null;
  deadline = 0;
  #revision = 0;
  #lastWritten = 0;

  constructor(readonly person: number) {}

  opens(attempt: string, deadline: number): void {
    // What was left from an attempt before belongs to that one.
    if (attempt !== this.attempt) this.pending.clear();
    this.attempt = attempt;
    this.deadline = deadline;
    this.phase = RUNNING;
  }

  writes(slot: number, text: string, now: number): void {
    this.#revision += 1;
    this.#lastWritten = Math.max(this.#lastWritten + 1, now);
    this.pending.set(slot, {
      slot,
      text,
      device: this.id,
      revision: this.#revision,
      writtenAt: this.#lastWritten,
    });
  }

  ticks(now: number): void {
    if (this.attempt && now >= this.deadline) {
      this.phase = phaseAfter(this.phase, { type: "end-reached", deadline: this.deadline });
    }
  }
}

const entryOf = ({ slot, device, revision, text, writtenAt }: PlainEntry) => ({
  slot,
  device,
  revision,
  answer: text === "" ? null : { text },
  ribbon: false,
  ruledOut: [],
  writtenAt,
});

const terms = fc.record({
  order: fc.constantFrom("free" as const, "one-way" as const),
  tellAtOnce: fc.boolean(),
  tries: fc.boolean(),
  takeBack: fc.constantFrom(true, true, false),
  attempts: fc.constantFrom(1 as const, 3 as const),
  laterAttemptsKnow: fc.boolean(),
  right: fc.constantFrom("at-hand-in" as const, "after-due" as const, "after-closing" as const),
  dueIn: fc.constantFrom(30, 60),
  closesIn: fc.constantFrom(0, 10, null),
});

const device = fc.nat(3);
const person = fc.nat(1);
const slot = fc.integer({ min: 1, max: 3 });
const text = fc.constantFrom("kelp", "gale", "foam", "");
const fate = fc.constantFrom("heard", "heard", "heard", "request lost", "answer lost", "killed");
const does = <D extends string, R extends object>(
  weight: number,
  name: D,
  more: { [K in keyof R]: fc.Arbitrary<R[K]> } = {} as never,
) => ({ weight, arbitrary: fc.record({ do: fc.constant(name), ...more }) as fc.Arbitrary<{ do: D } & R> });

const step = fc.oneof(
  does(3, "start", { device }),
  does(4, "open", { device }),
  does(2, "confirm", { device }),
  does(14, "write", { device, slot, text }),
  does(16, "sync", { device, fate }),
  does(4, "rewrite", { person, pick: fc.nat(50), text }),
  does(4, "pulse", { device }),
  does(2, "move on", { person }),
  does(4, "check", { person, slot }),
  does(3, "extend", { person, minutes: fc.constantFrom(1, 7) }),
  does(1, "allow", { person }),
  does(3, "hand in", { device }),
  does(4, "take back", { person }),
  does(2, "sweep"),
  does(6, "wait", { seconds: fc.constantFrom<number>(1, 2, 8, 20, 60, 300) }),
  does(1, "wait for the due time", { past: fc.constantFrom<number>(0, 60_000) }),
  does(1, "wait for the end", { person, past: fc.constantFrom<number>(-1, 0, 1, 4_999, 5_000, 5_001) }),
);
type Step = typeof step extends fc.Arbitrary<infer S> ? S : never;

let made = 0;
async function writeQuiz(plain: PlainTerms, opens: number): Promise<string> {
  made += 1;
  const quizId = randomUUID();
  const title = `Unplanned ${made}`;
  const { order, tellAtOnce, takeBack: mayTakeBack, attempts, laterAttemptsKnow, right, tries } = plain;
  const reveal = {
    total: "at-hand-in",
    marks: "at-hand-in",
    written: "at-hand-in",
    right,
    worked: right,
    laterAttemptsKnow,
  };
  const settings = { timeLimit: LIMIT, attempts, counts: "best", takeBack: mayTakeBack, reveal };
  const rules = { order, tellAtOnce, ...(tries && { tries: { most: MOST_TRIES, cost: "1/2" } }) };
  const questions = KEYS.map((key, i) => ({
    id: `q${i}`,
    kind: "short-text",
    text: "<p>Which?</p>",
    marks: 1,
    accepted: [{ text: key }],
    worked: "<p>MARKER-WORKED</p>",
  }));
  const file = { format: "shizuka-quiz", version: 1, title, rules, sections: [{ questions }] };
  await sql`insert into quiz (id, course_id, title, opens, due, closes, instructor_id, only_assigned, settings)
    values (${quizId}, ${course?.id}, ${title}, ${new Date(opens)}, ${new Date(plain.due)},
      ${plain.closes === null ? null : new Date(plain.closes)}, ${instructor.id}, true, ${sql.json(settings as never)})`;
  await sql`insert into quiz_version (id, quiz_id, number, content, facts)
    values (${randomUUID()}, ${quizId}, 1, ${sql.json(file)}, ${sql.json({ questions: 3, maximum: "3" })})`;
  for (const { id } of people) {
    await sql`insert into assignment (quiz_id, person_id) values (${quizId}, ${id})`;
  }
  return quizId;
}

/** The server dies in the middle: each of its connections is cut, wherever its work is. It comes back with others. */
async function killed(work: Promise<unknown>): Promise<void> {
  const ended = work.catch(() => {});
  await sql`select pg_terminate_backend(pid) from pg_stat_activity
    where datname = current_database() and application_name in ('shizuka pages', 'shizuka saving')`;
  await ended;
  const each = () => Promise.all(Array.from({ length: 12 }, () => database().execute("select 1")));
  const isBack = async () => {
    try {
      await Promise.all([each(), whileSaving(each)]);
      return true;
    } catch {
      return false;
    }
  };
  while (!(await isBack()));
}

class Sitting {
  readonly devices = [0, 0, 1, 1].map((of) => new Device(of));

  constructor(
    readonly quizId: string,
    readonly plain: PlainQuiz,
    public now: number,
  ) {}

  #viewer = (of: number) => people[of as 0 | 1];
  #newest = (of: number) => this.plain.attempts.filter((each) => each.person === of).at(-1);
  #of = (each: Device) => this.plain.attempts.find(({ id }) => id === each.attempt);

  /** Whether the application did something, or refused it with a problem; anything else fails the run. */
  async #may(work: Promise<unknown>): Promise<boolean> {
    try {
      await work;
      return true;
    } catch (error) {
      if (error instanceof Problem && error.status < 500) return false;
      throw error;
    }
  }

  async take(next: Step): Promise<void> {
    const { plain, now } = this;
    switch (next.do) {
      case "start": {
        plain.settle(now);
        const { person: of } = this.devices[next.device] as Device;
        const may = plain.mayStart(of, now);
        const running = plain.runningOf(of);
        let id = "";
        const did = await this.#may(
          startAttempt(this.#viewer(of), this.quizId).then((started) => {
            id = started.attemptId;
          }),
        );
        expect(did).toBe(may || running !== undefined);
        if (running) expect(id).toBe(running.id);
        else if (may) plain.start(id, of, now);
        return did ? this.take({ do: "open", device: next.device }) : undefined;
      }
      case "open": {
        const each = this.devices[next.device] as Device;
        const a = this.#newest(each.person);
        if (!a) return;
        const view = await openDesk(this.#viewer(each.person), a.id);
        if (view === null) {
          plain.settle(now);
          expect(a.handedIn).not.toBeNull();
          return;
        }
        plain.send(a, now);
        each.opens(a.id, view.clock.deadline ?? 0);
        for (const { slot: of, answer } of view.answers) {
          expect(answer).toEqual(entryOf(plain.stands(a, of) as PlainEntry).answer);
        }
        return;
      }
      case "confirm": {
        const each = this.devices[next.device] as Device;
        const a = this.#of(each);
        if (!a) return;
        await confirmStart(this.#viewer(each.person), a.id);
        plain.confirm(a, now);
        return;
      }
      case "write": {
        const each = this.devices[next.device] as Device;
        if (each.attempt && isWritable(each.phase)) each.writes(next.slot, next.text, now);
        return;
      }
      case "sync":
        return this.#sync(this.devices[next.device] as Device, next.fate);
      case "rewrite": {
        // With a script of one's own: an old number, other words, and a time that is later than all.
        const a = this.#newest(next.person);
        const old = a?.log[next.pick % Math.max(1, a.log.length)];
        if (!a || !old) return;
        const entry = { ...old, text: next.text, writtenAt: now + 1 };
        const will = plain.arrives(a, entry, now);
        const did = await this.#may(
          saveAnswers(this.#viewer(next.person).token, a.id, { here: 1, entries: [entryOf(entry)] }),
        );
        expect(did).toBe(will === "saved");
        return;
      }
      case "pulse":
        return this.#pulse(this.devices[next.device] as Device);
      case "move on": {
        const a = this.#newest(next.person);
        if (!a || a.page > 1) return;
        const isOver = a.handedIn !== null || now > a.deadline + GRACE;
        if (!isOver) plain.send(a, now);
        const did = await this.#may(
          moveOn(this.#viewer(next.person), a.id, { from: a.page, to: a.page + 1 }),
        );
        expect(did).toBe(!isOver);
        if (did) plain.moveOn(a);
        return;
      }
      case "check": {
        const a = this.#newest(next.person);
        if (!a) return;
        const isOver = a.handedIn !== null || now > a.deadline + GRACE;
        const written = plain.stands(a, next.slot)?.text ?? "";
        const did = await this.#may(checkAnswer(this.#viewer(next.person), a.id, { slot: next.slot }));
        expect(did).toBe(plain.terms.tries && !isOver && plain.isOpen(a, next.slot) && written !== "");
        if (did) a.checked.set(next.slot, [...(a.checked.get(next.slot) ?? []), written]);
        return;
      }
      case "extend": {
        const a = plain.runningOf(next.person);
        if (!a) return;
        const input = { minutes: next.minutes, reason: "A bell rang.", attemptIds: [a.id] };
        const did = await this.#may(extendRunning(instructor, this.quizId, input));
        expect(did).toBe(now < a.deadline + GRACE);
        if (did) plain.extend(a, next.minutes);
        return;
      }
      case "allow": {
        if (plain.laterEnd.has(next.person)) return;
        const end = (plain.terms.closes ?? plain.terms.due) + 30 * MINUTE;
        plain.laterEnd.set(next.person, end);
        await sql`insert into allowance (id, quiz_id, person_id, due, closes, reason)
          values (gen_random_uuid(), ${this.quizId}, ${this.#viewer(next.person).id}, ${new Date(end)}, ${new Date(end)}, 'ill')`;
        return;
      }
      case "hand in": {
        const each = this.devices[next.device] as Device;
        const a = this.#of(each);
        if (!a || each.phase.kind === "over") return;
        await this.#sync(each, "heard");
        await handInAttempt(this.#viewer(each.person), a.id, {});
        plain.settle(now);
        plain.handIn(a, now);
        each.phase = phaseAfter(each.phase, { type: "handed-in" });
        return;
      }
      case "take back": {
        const a = this.#newest(next.person);
        if (!a?.handedIn) return;
        const may = plain.mayTakeBack(a, now);
        expect(await this.#may(takeBack(this.#viewer(next.person), a.id))).toBe(may);
        if (may) plain.takeBack(a);
        return;
      }
      case "sweep":
        while ((await sweep()) > 0);
        plain.settle(now);
        return;
      case "wait":
        return this.#wait(now + next.seconds * SECOND);
      case "wait for the due time":
        if (plain.terms.due + next.past > now) this.#wait(plain.terms.due + next.past);
        return;
      case "wait for the end": {
        const a = plain.runningOf(next.person);
        if (a && a.deadline + next.past > now) this.#wait(a.deadline + next.past);
        return;
      }
    }
  }

  #wait(until: number): void {
    this.now = until;
    at(until);
    for (const each of this.devices) each.ticks(until);
  }

  async #sync(each: Device, how: string): Promise<void> {
    const a = this.#of(each);
    const entries = [...each.pending.values()];
    if (!a || entries.length === 0 || how === "request lost") return;
    const sent = saveAnswers(this.#viewer(each.person).token, a.id, {
      here: 1,
      entries: entries.map(entryOf),
    });
    if (how === "killed") {
      await killed(sent);
      // All of it came to be, or nothing: what did is asked of the log, and the device sends everything again.
      const [line] = await sql`select count(*)::int as count from answer_log
        where attempt_id = ${a.id} and device = ${each.id} and revision = any(${entries.map(({ revision }) => revision)})`;
      const fresh = entries.filter(
        (entry) => !a.log.some((old) => old.device === entry.device && old.revision === entry.revision),
      );
      if (line?.count > entries.length - fresh.length)
        for (const entry of entries) this.plain.arrives(a, entry, this.now);
      else this.plain.settle(this.now);
      return;
    }
    const fates = new Map(entries.map((entry) => [entry.slot, this.plain.arrives(a, entry, this.now)]));
    const slots = (fate: string) =>
      [...fates]
        .filter(([, each]) => each === fate)
        .map(([of]) => of)
        .sort();
    try {
      const receipt = await sent;
      expect(receipt.saved.map((saved) => saved.slot).sort()).toEqual(slots("saved"));
      expect(receipt.refused.map((refused) => refused.slot).sort()).toEqual(slots("refused"));
      for (const newer of receipt.newer) {
        expect(newer).toMatchObject({
          answer: entryOf(this.plain.stands(a, newer.slot) as PlainEntry).answer,
        });
      }
      if (how === "answer lost") return;
      each.pending.clear();
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      expect(slots("saved")).toEqual([]);
      const { late } = error.more as { late?: { slot: number }[] };
      expect((late ?? []).map(({ slot: of }) => of).sort()).toEqual(slots("late"));
      if (how === "answer lost") return;
      if (error.type !== "handed-in") return each.pending.clear();
      for (const of of slots("late")) each.pending.delete(of);
      each.phase = phaseAfter(each.phase, { type: "save-found-it-over" });
      await this.#pulse(each);
    }
  }

  async #pulse(each: Device): Promise<void> {
    const a = this.#of(each);
    if (!a) return;
    const pulse = await attemptPulse(this.#viewer(each.person), a.id);
    each.deadline = pulse.deadline ?? 0;
    const { serverNow, deadline, handedInAt } = pulse;
    each.phase = phaseAfter(each.phase, {
      type: "told",
      now: serverNow,
      deadline,
      handedIn: handedInAt !== null,
    });
    each.ticks(this.now);
    // A desk that hears that its attempt runs can be written, whatever it went through; one that hears that it is over can not.
    const isOver = each.phase.kind === "over";
    if (!isOver && this.now < a.deadline) expect(isWritable(each.phase)).toBe(a.handedIn === null);
    if (a.handedIn) expect(isWritable(each.phase)).toBe(false);
  }

  /** What stands in the database is what the plain model says, and nobody sees a key too early or too late. */
  async compare(): Promise<void> {
    this.plain.settle(this.now);
    for (const a of this.plain.attempts) {
      const [row] =
        await sql`select started_at, deadline, handed_in_at, handed_in_by, earned, page from attempt where id = ${a.id}`;
      expect(instant(row?.deadline)).toBe(a.deadline);
      expect(instant(row?.started_at)).toBe(a.startsAt);
      // Nobody has looked at it since its end: what is said of it then is settled first.
      if (a.handedIn === null || row?.handed_in_at !== null) {
        expect([instant(row?.handed_in_at), row?.handed_in_by]).toEqual([
          a.handedIn?.at ?? null,
          a.handedIn?.by ?? null,
        ]);
      } else await settle(a.id);
      const stand = await sql`select slot, answer from answer where attempt_id = ${a.id} order by slot`;
      const should = [1, 2, 3].flatMap((of) => {
        const entry = this.plain.stands(a, of);
        return entry ? [{ slot: of, answer: entryOf(entry).answer }] : [];
      });
      expect([...stand]).toEqual(should);
      const logged =
        await sql`select slot, device, revision::int, coalesce(answer->>'text', '') as text from answer_log where attempt_id = ${a.id}`;
      const key = (each: { slot: number; device: string; revision: number; text: string }) =>
        `${each.slot} ${each.device} ${each.revision} ${each.text}`;
      expect(logged.map((each) => key(each as never)).sort()).toEqual(a.log.map(key).sort());
      if (a.handedIn) await this.#compareHandedIn(a);
    }
  }

  async #compareHandedIn(a: PlainAttempt): Promise<void> {
    const [row] = await sql`select earned from attempt where id = ${a.id}`;
    expect(Number(row?.earned)).toBe([1, 2, 3].reduce((sum, of) => sum + this.plain.marks(a, of), 0));
    const paper = JSON.stringify(await markedPaperOf(this.#viewer(a.person), a.id));
    const isShown = paper.includes("MARKER-RIGHT") || paper.includes("MARKER-WORKED");
    expect(isShown).toBe(this.plain.keyIsShown(a, this.now));
  }
}

test("whatever happens in whatever order, what stands and what is shown is what the rules say", async () => {
  let steps = 0;
  const base = Math.ceil(Date.now() / SECOND) * SECOND;
  const run = fc.asyncProperty(
    terms,
    fc.array(step, { minLength: STEPS, maxLength: STEPS }),
    async (drawn, all) => {
      const { dueIn, closesIn, ...rest } = drawn;
      const due = base + dueIn * MINUTE;
      const closes = closesIn === null ? null : due + closesIn * MINUTE;
      const isLegal =
        (rest.right !== "at-hand-in" ||
          (!rest.takeBack && (rest.attempts === 1 || rest.laterAttemptsKnow))) &&
        (rest.right !== "after-closing" || closes !== null);
      const plainTerms = { ...rest, right: isLegal ? rest.right : ("after-due" as const), due, closes };
      at(base);
      const quizId = await writeQuiz(plainTerms, base - MINUTE);
      const sitting = new Sitting(quizId, new PlainQuiz(plainTerms, people.length), base);
      // Both are at their desks, with both devices; what comes then nobody planned.
      const begin: Step[] = [0, 2].flatMap((each): Step[] => [
        { do: "start", device: each },
        { do: "open", device: each + 1 },
        { do: "confirm", device: each },
      ]);
      for (const next of [...begin, ...all]) {
        await sitting.take(next);
        await sitting.compare();
        steps += 1;
      }
      // In the end everybody's time is up, and everything is told.
      await sitting.take({ do: "wait", seconds: 300 * 60 });
      await sitting.take({ do: "sweep" });
      await sitting.compare();
    },
  );
  await fc.assert(run, { numRuns: RUNS, seed: 1_126, endOnFailure: process.env.SHRINK === undefined });
  expect(steps).toBeGreaterThanOrEqual(RUNS * STEPS);
}, 240_000);
