import { randomUUID } from "node:crypto";
import { TZDate } from "@date-fns/tz";
import { afterEach, expect, test, vi } from "vitest";
import { chance } from "@/core/numbers/seeded";
import { DAY, GRACE, HOUR, MINUTE } from "@/core/time/instants";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { viewer, quiz, attempt } = college(sql);
const { startAttempt } = await import("../desk/start-attempt");
const { confirmStart } = await import("../desk/open-desk");
const { handInAttempt } = await import("../desk/hand-in");
const { takeBack } = await import("../handed-in/take-back");
const { extendRunning } = await import("../quizzes/extend-running");
const { setTimes } = await import("../quizzes/set-times");
const { sweep } = await import("../attempts/settle");
const { endAttempts } = await import("../watch/end-attempts");
const { letIn } = await import("../watch/let-in");
const { briefOf } = await import("../overview/brief");
const { giveAllowance, takeAllowanceBack } = await import("./give-allowance");

const TIDES = "Tides and clearances";
const SLUG = "nav-110";
const ines = await viewer("ines.marsh");
const tides = await quiz(TIDES);
const NAMES = ["anneke.tremaine", "bao.lindqvist", "dmitri.aske"];
const students = await Promise.all(NAMES.map((name) => viewer(name)));
const [courseRow] = await sql`select course_id from quiz where id = ${tides}`;
const sections = [randomUUID(), randomUUID()];
/** Who is in which section: the one in the middle in both. */
const MEMBERS = [[0], [0, 1], [1]];
for (const [i, id] of sections.entries()) {
  await sql`insert into course_section (id, course_id, title, position) values (${id}, ${courseRow?.course_id}, ${`Group ${i}`}, ${i + 10})`;
  for (const [person, own] of MEMBERS.entries())
    if (own.includes(i))
      await sql`insert into section_member (section_id, person_id) values (${id}, ${students[person]?.id ?? ""})`;
}
const at = (instant: number) => vi.useFakeTimers({ toFake: ["Date"], now: instant });
afterEach(() => {
  vi.useRealTimers();
});

/** What was given, as plainly as it can be written down. */
interface Given {
  readonly scope: "quiz" | "course";
  readonly to: "person" | "section";
  readonly which: number;
  readonly factor?: number;
  readonly minutes?: number;
  readonly closes?: number | "none";
  readonly days?: number;
}
interface Terms {
  limit: number | null;
  closes: number | null;
  cuts: boolean;
}

const daysOn = (moment: number, days: number) => {
  const on = new TZDate(moment, "Europe/London");
  on.setDate(on.getDate() + days);
  return on.getTime();
};
const largest = (values: readonly (number | undefined)[]) => {
  const there = values.filter((each) => each !== undefined);
  return there.length === 0 ? undefined : Math.max(...there);
};

/** Rules 1, read slowly: what one student has, by a list of what was given to whom. */
function deadlineByHand(
  person: number,
  { start, added }: { readonly start: number; readonly added: number },
  terms: Terms,
  given: readonly Given[],
): number | null {
  const reaches = given.filter(({ to, which }) =>
    to === "person" ? which === person : MEMBERS[person]?.includes(which),
  );
  const own = reaches.find(({ scope, to }) => scope === "quiz" && to === "person");
  const others = reaches.filter((each) => each !== own);
  const factor = own?.factor ?? largest(others.map((each) => each.factor)) ?? 1;
  const minutes = own?.minutes ?? largest(others.map((each) => each.minutes)) ?? 0;
  const shared = () => {
    if (others.some(({ closes }) => closes === "none")) return null;
    const dates = others.map(({ closes }) => (typeof closes === "number" ? closes : undefined));
    const base = largest(dates) ?? terms.closes;
    return base === null ? null : daysOn(base, largest(others.map(({ days }) => days)) ?? 0);
  };
  const closes = own?.closes === "none" ? null : (own?.closes ?? shared());
  const whole = terms.limit === null ? null : start + (terms.limit * factor + minutes) * MINUTE;
  const ends = [whole, terms.cuts || whole === null ? closes : null].filter((each) => each !== null);
  return ends.length === 0 ? null : Math.min(...ends) + added;
}

const send = (moment: number | "none" | undefined) =>
  moment === undefined ? null : moment === "none" ? "none" : new Date(moment).toISOString();

async function give(given: Given) {
  const input = {
    ...(given.to === "person"
      ? { personIds: [students[given.which]?.id] }
      : { sectionId: sections[given.which] }),
    factor: given.factor ?? null,
    extraMinutes: given.minutes ?? null,
    closes: send(given.closes),
    daysLater: given.days ?? null,
    reason: "x",
  };
  await giveAllowance(ines, given.scope === "quiz" ? { quiz: tides } : { course: SLUG }, input);
}

async function takeBackAll() {
  await sql`delete from allowance where quiz_id = ${tides} or course_id = ${courseRow?.course_id}`;
}

async function begin(person: number) {
  const student = students[person];
  if (!student) throw new Error("nobody");
  const { attemptId } = await startAttempt(student, tides);
  await confirmStart(student, attemptId);
  return { id: attemptId, student, person };
}

async function fresh(closes: number) {
  await takeBackAll();
  await sql`delete from attempt where quiz_id = ${tides} and person_id in ${sql(students.map(({ id }) => id))}`;
  await sql`update quiz set opens = null, due = null, closes = ${new Date(closes)},
    settings = settings || '{"timeLimit": 30, "attempts": 50, "takeBack": true, "closingCutsClock": true}' where id = ${tides}`;
}

const refusedOr = async (deed: Promise<unknown>) =>
  deed.then(
    () => null,
    (error) => {
      if (typeof error?.status !== "number" || error.status >= 500) throw error;
      return error as { status: number };
    },
  );

test("a deadline is right in every order of allowances, sections, the quiz, the watch, the student and the clock", async () => {
  const next = chance("allowances and deadlines");
  const pick = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)] as T;
  const maybe = <T>(value: T): T | undefined => (next() < 0.5 ? value : undefined);
  let refusals = 0;
  let moves = 0;
  for (let round = 0; round < 10; round += 1) {
    vi.useRealTimers();
    let now = Date.now();
    at(now);
    const terms: Terms = { limit: 30, closes: now + 5 * HOUR, cuts: true };
    await fresh(now + 5 * HOUR);
    let given: Given[] = [];
    const model = await Promise.all(
      students.map(async (_, person) => ({
        ...(await begin(person)),
        start: now,
        added: 0,
        by: null as string | null,
      })),
    );
    const endOf = (each: (typeof model)[number], terms_: Terms, given_: readonly Given[]) =>
      deadlineByHand(each.person, each, terms_, given_);
    /** Whether those who write would all keep at least a minute. */
    const isBearable = (terms_: Terms, given_: readonly Given[]) =>
      model.every((each) => {
        if (each.by !== null) return true;
        const from = endOf(each, terms, given);
        const to = endOf(each, terms_, given_);
        if (from !== null && from <= now - GRACE) return true;
        return to === null || (from !== null && to >= from) || to >= now + MINUTE;
      });
    for (let step = 0; step < 16; step += 1) {
      const one = pick(model);
      const did = pick([
        "give",
        "give",
        "give",
        "back",
        "quiz",
        "extend",
        "end",
        "let-in",
        "hand-in",
        "undo",
        "clock",
      ]);
      if (did === "give") {
        const scope = pick(["quiz", "course"] as const);
        const to = pick(["person", "section"] as const);
        const draft: Given = {
          scope,
          to,
          which: Math.floor(next() * (to === "person" ? 3 : 2)),
          ...Object.fromEntries(
            Object.entries({
              factor: maybe(pick([1, 1.25, 1.5, 2])),
              minutes: maybe(pick([0, 5, 10])),
              closes: maybe(
                scope === "quiz" ? pick(["none", now + pick([0.5, 10, 40, 400]) * MINUTE] as const) : "none",
              ),
              days: scope === "course" ? maybe(pick([1, 3])) : undefined,
            }).filter(([, value]) => value !== undefined),
          ),
        };
        if (Object.keys(draft).length === 3) continue;
        const kept = given.filter(
          (each) => each.scope !== scope || each.to !== to || each.which !== draft.which,
        );
        const fits = isBearable(terms, [...kept, draft]);
        const refused = await refusedOr(give(draft));
        expect(refused === null, `giving ${JSON.stringify(draft)} in round ${round}`).toBe(fits);
        if (fits) given = [...kept, draft];
        else refusals += 1;
      } else if (did === "back") {
        const out = given.length > 0 ? pick(given) : null;
        if (!out) continue;
        const kept = given.filter((each) => each !== out);
        const fits = isBearable(terms, kept);
        const [row] = await sql`select id from allowance where ended_at is null
          and ${out.scope === "quiz" ? sql`quiz_id = ${tides}` : sql`course_id = ${courseRow?.course_id}`}
          and ${out.to === "person" ? sql`person_id = ${students[out.which]?.id ?? ""}` : sql`section_id = ${sections[out.which] ?? ""}`}`;
        const refused = await refusedOr(
          takeAllowanceBack(ines, out.scope === "quiz" ? { quiz: tides } : { course: SLUG }, {
            id: row?.id,
            reason: "x",
          }),
        );
        expect(refused === null, `taking ${JSON.stringify(out)} back in round ${round}`).toBe(fits);
        if (fits) given = kept;
        else refusals += 1;
      } else if (did === "quiz") {
        const change = pick<Partial<Terms>>([
          { limit: pick([5, 20, 30, 45]) },
          { closes: now + pick([0.5, 15, 90, 300]) * MINUTE },
          { cuts: next() < 0.5 },
        ]);
        const fits = isBearable({ ...terms, ...change }, given);
        const refused = await refusedOr(
          setTimes(ines, tides, {
            ...(change.limit === undefined ? {} : { timeLimit: change.limit }),
            ...(change.closes === undefined ? {} : { closes: send(change.closes ?? "none") }),
            ...(change.cuts === undefined ? {} : { closingCutsClock: change.cuts }),
            reason: "x",
          }),
        );
        expect(refused === null, `setting ${JSON.stringify(change)} in round ${round}`).toBe(fits);
        if (fits) Object.assign(terms, change);
        else refusals += 1;
      } else if (did === "extend") {
        const all = next() < 0.5;
        await refusedOr(
          extendRunning(ines, tides, { minutes: 7, reason: "x", ...(all ? {} : { attemptIds: [one.id] }) }),
        );
        for (const each of all ? model : [one]) {
          const end = endOf(each, terms, given);
          if (each.by === null && end !== null && end > now - GRACE) each.added += 7 * MINUTE;
        }
      } else if (did === "end") {
        await refusedOr(endAttempts(ines, tides, { attemptIds: [one.id], reason: "x" }));
        one.by ??= "instructor";
      } else if (did === "let-in") {
        const before = endOf(one, terms, given);
        const refused = await refusedOr(letIn(ines, tides, { attemptId: one.id, minutes: 4, reason: "x" }));
        expect(refused === null, `letting in, round ${round}`).toBe(one.by !== null);
        if (one.by !== null) {
          one.by = null;
          if (before !== null) one.added += Math.max(before, now) + 4 * MINUTE - before;
        }
      } else if (did === "hand-in") {
        await refusedOr(handInAttempt(one.student, one.id, {}));
        one.by ??= "student";
      } else if (did === "undo") {
        const end = endOf(one, terms, given);
        const may = one.by === "student" && (end === null || now < end);
        const refused = await refusedOr(takeBack(one.student, one.id));
        if (one.by !== null) expect(refused === null, `taking back, round ${round}`).toBe(may);
        if (may) one.by = null;
      } else {
        now += Math.floor(next() * 12) * MINUTE;
        at(now);
        await sweep();
        for (const each of model) {
          const end = endOf(each, terms, given);
          if (each.by === null && end !== null && end <= now - GRACE) each.by = "clock";
        }
      }
      for (const each of model) {
        const row = await attempt(each.id);
        const end = endOf(each, terms, given);
        const stood = row?.deadline === null ? null : Number(row?.deadline);
        if (each.by === null || each.by === "student") {
          expect(stood, `${did} in round ${round}, step ${step}`).toBe(end);
          moves += 1;
        }
        expect(row?.handed_in_by ?? null, `${did} in round ${round}, step ${step}`).toBe(each.by);
      }
    }
    // What their briefs say is what would hold if they began now.
    for (const each of model) {
      const brief = await briefOf(each.student, tides);
      expect(brief.endsIfStarted).toBe(deadlineByHand(each.person, { start: now, added: 0 }, terms, given));
    }
  }
  expect(refusals).toBeGreaterThan(2);
  expect(moves).toBeGreaterThan(150);
}, 120_000);

test("the same changes come to the same end in every order", async () => {
  const start = Date.now();
  const changes: readonly (() => Promise<unknown>)[] = [
    () => give({ scope: "quiz", to: "person", which: 1, factor: 1.5 }),
    () => give({ scope: "course", to: "section", which: 0, minutes: 10 }),
    () =>
      setTimes(ines, tides, {
        timeLimit: 40,
        closes: new Date(start + 90 * MINUTE).toISOString(),
        reason: "x",
      }),
    () => extendRunning(ines, tides, { minutes: 20, reason: "x" }),
  ];
  const orders = (left: readonly number[]): number[][] =>
    left.length === 0
      ? [[]]
      : left.flatMap((each) => orders(left.filter((other) => other !== each)).map((rest) => [each, ...rest]));
  for (const order of orders([0, 1, 2, 3])) {
    at(start);
    await fresh(start + 5 * HOUR);
    const { id } = await begin(1);
    for (const i of order) await changes[i]?.();
    // min(40 × 1.5 + 10, 90) + 20
    expect(Number((await attempt(id))?.deadline) - start, order.join()).toBe(90 * MINUTE);
  }
}, 60_000);

test("an attempt that begins while an allowance is given has it, whichever comes first", async () => {
  for (let round = 0; round < 12; round += 1) {
    await fresh(Date.now() + 2 * DAY);
    const [attemptOf] = await Promise.all([
      begin(2),
      give({ scope: round % 2 ? "quiz" : "course", to: "person", which: 2, factor: 2 }),
    ]);
    const row = await attempt(attemptOf.id);
    expect(Number(row?.deadline) - Number(row?.started_at)).toBe(60 * MINUTE);
  }
}, 60_000);
