import { deadlineOf, NO_ALLOWANCE } from "@/core/attempt/deadline";
import { maximumOf, planAttempt } from "@/core/attempt/plan";
import { scoreRubric } from "@/core/kinds/rubric";
import { markByHand } from "@/core/marking/hand-mark";
import { stored, written } from "@/core/numbers/exact";
import type { AttemptSeed } from "@/core/numbers/seeded";
import { chance } from "@/core/numbers/seeded";
import { DAY, HOUR, type Instant, MINUTE } from "@/core/time/instants";
import type { Queryable } from "@/data/database";
import * as schema from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { currentMarks, setMark } from "@/server/attempts/marks";
import { currentNaming, seedOf } from "@/server/attempts/seeds";
import { handInAll } from "@/server/attempts/settle";
import { type Slips, sampleAnswers } from "./answers";
import { type DemoQuiz, type Ids, idOf } from "./demo-quiz";
import { INSTRUCTORS, NOOR, STUDENTS } from "./people";

interface HandMarked {
  readonly question: string;
  /** Marks, or the levels reached in the rubric. */
  readonly marks?: number;
  readonly levels?: Readonly<Record<string, string>>;
  readonly reason: string;
  readonly at: Instant;
  /** Not a person's judgement: the rule was put right, and marked again. */
  readonly ruleChanged?: boolean;
}

interface SampleAttempt {
  readonly quiz: string;
  readonly student: string;
  readonly number?: number;
  /** Null: so long after the due time that it is late. */
  readonly started: Instant | null;
  readonly took: number;
  /** Still running: nothing was handed in yet. */
  readonly running?: boolean;
  readonly slips: Slips;
  /** What a person marked, by question id, in order of the marking. */
  readonly byHand?: readonly HandMarked[];
  readonly notes?: readonly { readonly question: string; readonly about?: string; readonly text: string }[];
  readonly returned?: Instant;
  readonly feedback?: string;
}

function noorsAttempts(at: Instant): SampleAttempt[] {
  return [
    {
      quiz: "compass",
      student: NOOR,
      started: at - 9 * DAY,
      took: 21 * MINUTE + 40_000,
      slips: { wrong: ["deviation", "near"], written: { course: { a: "72", b: "67" } } },
      returned: at - 6 * DAY,
      feedback: "<p>Watch the signs: east deviation is added on the way from compass to true.</p>",
    },
    {
      quiz: "compass",
      student: NOOR,
      number: 2,
      started: at - 8 * DAY,
      took: 18 * MINUTE + 4_000,
      slips: { written: { std: { a: "6", b: "2.0" } } },
      returned: at - 6 * DAY,
      feedback: "<p>Much better. One figure was missing in the last question; see what it cost.</p>",
    },
    {
      quiz: "flour",
      student: NOOR,
      started: at - 3 * DAY,
      took: 22 * MINUTE + 12_000,
      slips: { wrong: ["proteases"] },
      returned: at - 5 * HOUR,
      feedback:
        "<p>Clear on amylase. Read again what proteases leave alone, and well done on the proofing time.</p>",
    },
    {
      quiz: "sampling",
      student: NOOR,
      started: at - 30 * HOUR,
      took: 24 * MINUTE + 31_000,
      slips: { wrong: ["pan"], empty: ["when"] },
    },
    {
      quiz: "species",
      student: NOOR,
      started: at - 26 * HOUR,
      took: 20 * MINUTE,
      running: true,
      slips: { empty: ["leaf", "fly"] },
    },
    letters(at),
    review(at),
  ];
}

/** Handed in, one letter marked, the other still waiting. */
const letters = (at: Instant): SampleAttempt => ({
  quiz: "letters",
  student: NOOR,
  started: at - 21 * HOUR,
  took: 48 * MINUTE,
  slips: {
    given: {
      swarm: {
        rich: "<p>Dear neighbour, leave the brigade in their beds. A swarm has no brood and no stores to defend, so it is as gentle as bees ever are. Keep the dog in, look at it from the kitchen, and ring a beekeeper: by tomorrow it will have gone, or be in somebody’s box.</p>",
      },
      spray: {
        rich: "<p>Not while they flower, whatever the label says. If it must be, then late in the evening, with nothing in bloom underneath, and tell the people with hives the day before.</p>",
      },
    },
  },
  byHand: [
    {
      question: "swarm",
      marks: 4,
      reason: "calm and right; say also from how near one may look",
      at: at - 6 * HOUR,
    },
  ],
});

/** Every kind answered, a day late, marked by rule and by hand, one mark set anew, with notes in the margin. */
const review = (at: Instant): SampleAttempt => ({
  quiz: "review",
  student: NOOR,
  started: null,
  took: 61 * MINUTE + 20_000,
  slips: {
    wrong: ["solitary"],
    given: {
      estimate: (right) => (right && "parts" in right ? { parts: { ...right.parts, b: "198" } } : null),
      buzz: { text: "buzzing" },
      helps: (right) => (right && "picks" in right ? { picks: right.picks.slice(0, 2) } : null),
      tongues: (right) => {
        if (!right || !("pairs" in right)) return null;
        const [prompts, targets] = [Object.keys(right.pairs), Object.values(right.pairs)];
        const order = [targets[1], targets[0], ...targets.slice(2)];
        return { pairs: Object.fromEntries(prompts.map((prompt, i) => [prompt, order[i] ?? ""])) };
      },
      day: (right) => {
        if (!right || !("order" in right)) return null;
        const [first = "", second = "", third = "", ...rest] = right.order;
        return { order: [first, third, second, ...rest] };
      },
      stigma: {
        points: [
          { x: 0.36, y: 0.4 },
          { x: 0.5, y: 0.62 },
        ],
      },
      why: {
        rich: "<p>The south bank is dry by eight o’clock, while the north bank lies in shadow until ten. A small bee cannot fly until her muscles are warm, so on the south bank the day is two hours longer.</p><p>I would count again on three mornings, each time both banks at the same hours, and put the same pots of thyme on both, so that only the warmth differs.</p>",
      },
      page: {
        files: [{ id: NOTEBOOK_FILE, name: "second day, south bank.txt", size: NOTEBOOK_PAGE.length }],
        text: "The rain began at eleven, so the last row is short.",
      },
    },
  },
  byHand: [
    {
      question: "why",
      levels: { cause: "one", test: "fair" },
      reason: "a fair test, well said; the thyme is in your test but not among your causes",
      at: at - 3 * DAY - 2 * HOUR,
    },
    { question: "page", marks: 3, reason: "clear, but the weather is missing", at: at - 3 * DAY - HOUR },
    {
      question: "buzz",
      marks: 2,
      reason: "“buzzing” is accepted from everybody; marked again",
      at: at - 2 * DAY,
      ruleChanged: true,
    },
  ],
  notes: [
    {
      question: "why",
      about: "the day is two hours longer",
      text: "<p>Exactly the right thought: not more bees, but more hours.</p>",
    },
    {
      question: "why",
      about: "put the same pots of thyme on both",
      text: "<p>So you know that the thyme matters. Say it above, as a cause of its own.</p>",
    },
    {
      question: "page",
      text: "<p>Date, wind and cloud first, always; without them nobody can use your rows next year.</p>",
    },
  ],
  returned: at - 3 * DAY,
  feedback:
    "<p>A day late, which is a pity, for this is careful work. Look at the order of mark and recapture again: the wait comes before the second catch for a reason.</p>",
});

const NOTEBOOK_FILE = "6f1d2c58-8d0b-4a1e-9d54-3a7f0c1b2e90";
const NOTEBOOK_PAGE = new TextEncoder().encode(
  [
    "South bank, second day",
    "",
    "08:10-08:30  thyme        14 visits   9 bumblebees, 5 hoverflies",
    "09:10-09:30  thyme        22 visits  16 bumblebees, 6 small bees",
    "10:10-10:30  thyme        31 visits  19 bumblebees, 12 small bees",
    "10:50-11:00  harebell      4 visits   (rain)",
    "",
  ].join("\n"),
);

/** Some of the others, so that a class stands behind the figures. */
function othersAttempts(at: Instant): SampleAttempt[] {
  const next = chance("demo attempts");
  const quizzes = [
    {
      key: "compass",
      letter: "n",
      ids: ["course", "variation", "deviation", "near", "back", "std"],
      started: at - 9 * DAY,
      returned: at - 6 * DAY,
    },
    {
      key: "flour",
      letter: "b",
      ids: ["amylase", "falling", "proteases", "protein", "proof", "bran"],
      started: at - 4 * DAY,
      returned: at - 5 * HOUR,
    },
    {
      key: "sampling",
      letter: "p",
      ids: ["transect", "lincoln", "assume", "pan", "when"],
      started: at - 3 * DAY,
      returned: null,
    },
  ];
  return quizzes.flatMap(({ key, letter, ids, started, returned }) =>
    STUDENTS.filter(([name, taken]) => name !== NOOR && taken.includes(letter) && next() < 0.8).map(
      ([student]) => ({
        quiz: key,
        student,
        started: started + Math.floor(next() * DAY),
        took: Math.floor((10 + next() * 10) * MINUTE),
        slips: { wrong: ids.filter(() => next() < 0.25), empty: ids.filter(() => next() < 0.05) },
        ...(returned === null ? {} : { returned }),
      }),
    ),
  );
}

/** Writes what Noor and some of the others have taken. */
export async function writeAttempts(
  db: Queryable,
  quizzes: readonly DemoQuiz[],
  people: Ids,
  at: Instant,
): Promise<void> {
  for (const sample of [...noorsAttempts(at), ...othersAttempts(at)]) {
    const quiz = quizzes.find(({ key }) => key === sample.quiz);
    if (!quiz) throw new Error(`The demo has no quiz ${sample.quiz}.`);
    await writeAttempt(db, quiz, sample, people);
  }
}

async function writeAttempt(
  db: Queryable,
  quiz: DemoQuiz,
  sample: SampleAttempt,
  people: Ids,
): Promise<void> {
  const { took } = sample;
  const started = sample.started ?? (quiz.window.due ?? 0) + 5 * HOUR;
  const personId = idOf(people, sample.student);
  const seeded = {
    id: newId(),
    seed: `demo ${quiz.key} ${sample.student} ${sample.number ?? 1}`,
    naming: await currentNaming(),
  };
  const seed = await seedOf(seeded);
  const limitMinutes = quiz.settings.timeLimit ?? null;
  const deadline = deadlineOf({
    start: started,
    limitMinutes,
    allowance: NO_ALLOWANCE,
    closes: quiz.window.closes,
    closingCuts: true,
  });
  const [row] = await db
    .insert(schema.attempt)
    .values({
      quizId: quiz.id,
      versionId: quiz.versionId,
      personId,
      number: sample.number ?? 1,
      ...seeded,
      sentAt: new Date(started),
      startedAt: new Date(started),
      confirmed: true,
      deadline: deadline === null ? null : new Date(deadline),
      maximum: stored(maximumOf(planAttempt(quiz.content, seed))),
      returnedAt: sample.returned ? new Date(sample.returned) : null,
      feedback: sample.feedback ?? null,
    })
    .returning();
  if (!row) throw new Error("The attempt was not written.");
  const answers = [...sampleAnswers(quiz.content, seed, sample.slips)];
  // The second half on another device, as it is when one changes from the phone to the desk.
  const devices = [newId(), newId()] as const;
  const entries = answers.map(([slot, answer], i) => {
    const writtenAt = new Date(started + Math.floor((took * (i + 1)) / (answers.length + 1)));
    return {
      attemptId: row.id,
      slot,
      answer,
      ribbon: false,
      ruledOut: [],
      revision: 1,
      device: devices[i * 2 < answers.length ? 0 : 1],
      writtenAt,
      savedAt: writtenAt,
    };
  });
  if (entries.length > 0) {
    await db.insert(schema.answer).values(entries);
    await db.insert(schema.answerLog).values(entries);
  }
  const bringsFile = answers.find(([, answer]) => "files" in answer && answer.files.length > 0);
  if (bringsFile) await writeFile(db, row.id, bringsFile[0], started + took / 2);
  if (sample.running) return;
  await handInAll(db, [{ row, by: "student", at: started + took, actorId: personId }]);
  await writeMarks(db, quiz, row.id, seed, sample, idOf(people, INSTRUCTORS[quiz.course]));
}

async function writeFile(db: Queryable, attemptId: string, slot: number, at: Instant): Promise<void> {
  const size = NOTEBOOK_PAGE.length;
  await db.insert(schema.upload).values({
    id: NOTEBOOK_FILE,
    attemptId,
    slot,
    name: "second day, south bank.txt",
    size,
    received: size,
    type: "text/plain",
    completedAt: new Date(at),
    createdAt: new Date(at),
  });
  await db
    .insert(schema.uploadPiece)
    .values({ uploadId: NOTEBOOK_FILE, at: 0, bytes: Buffer.from(NOTEBOOK_PAGE) });
}

/** Writes what a person marked and wrote in the margin. */
async function writeMarks(
  db: Queryable,
  quiz: DemoQuiz,
  attemptId: string,
  seed: AttemptSeed,
  { byHand = [], notes = [], returned }: SampleAttempt,
  markerId: string,
): Promise<void> {
  const plan = planAttempt(quiz.content, seed);
  const placeOf = (id: string) => {
    const place = plan.find(({ question }) => question.id === id);
    if (!place) throw new Error(`The attempt has no question ${id}.`);
    return place;
  };
  for (const hand of byHand) {
    const { slot, question } = placeOf(hand.question);
    const before = (await currentMarks(db, attemptId)).find((each) => each.slot === slot);
    const rubric = "rubric" in question ? question.rubric : undefined;
    const score = rubric && hand.levels ? scoreRubric(rubric, hand.levels) : null;
    const marks = score?.ok ? written(score.marks) : (hand.marks ?? 0);
    const marking = before && markByHand(before.detail, { marks, reason: hand.reason });
    if (!marking?.ok) throw new Error(`The demo cannot mark ${hand.question}.`);
    const { ruleChanged = false, levels, reason, at } = hand;
    const detail = ruleChanged
      ? { ...marking.marked, parts: marking.marked.parts.map((part) => ({ ...part, why: "right" })) }
      : marking.marked;
    await setMark(db, attemptId, {
      slot,
      detail,
      source: ruleChanged ? "rule" : "hand",
      reason,
      ...(levels ? { levels } : {}),
      markedBy: markerId,
      at,
    });
  }
  if (notes.length === 0) return;
  await db.insert(schema.marginNote).values(
    notes.map(({ question, about, text }) => ({
      attemptId,
      slot: placeOf(question).slot,
      authorId: markerId,
      about: about ?? null,
      text,
      createdAt: new Date(returned ?? 0),
    })),
  );
}
