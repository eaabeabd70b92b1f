import { expect, test } from "vitest";
import { say } from "@/words/t";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { viewer, quiz } = college(sql);
const { figuresOf } = await import("./quiz-figures");
const { answerFigures } = await import("./answer-figures");
const { figuresFile } = await import("./figures-file");
const { remarkablesOf } = await import("./figures-words");
const { choiceIn } = await import("./figures-choice");

const marsh = await viewer("ines.marsh");
const paper = await quiz("Half-term paper");
const chosen = (terms = "") => choiceIn(new URLSearchParams(terms));
const counting = await figuresOf(marsh, paper, chosen());

/** The mark of each question in each attempt, read in another way: one by one, the newest by hand. */
async function slowly(ids: readonly string[]) {
  const rows = new Map<string, Map<string, { marks: number; maximum: number; state: string }>>();
  for (const id of ids) {
    const marks =
      await sql`select slot, question_id, detail from mark where attempt_id = ${id} order by added`;
    const own = new Map<string, { marks: number; maximum: number; state: string }>();
    for (const { question_id, detail } of marks) {
      const exact = (text: string) => {
        const [top = "0", bottom = "1"] = text.split("/");
        return Number(top) / Number(bottom);
      };
      own.set(question_id, {
        marks: exact(detail.marks),
        maximum: exact(detail.maximum),
        state: detail.state,
      });
    }
    rows.set(id, own);
  }
  return rows;
}

test("are of one attempt for each student, and agree with figures that are worked out slowly", async () => {
  const ids = await sql`select distinct on (person_id) id, person_id, earned::float8 as earned from attempt
    where quiz_id = ${paper} and handed_in_at is not null order by person_id, earned desc`;
  expect(counting.figures.attempts + counting.waiting).toBe(ids.length);
  const held = await slowly([...(counting.rest.get(counting.questions[0]?.id ?? "") ?? new Map()).keys()]);
  for (const { id } of counting.questions.slice(0, 6)) {
    const own = [...held.values()].flatMap((row) => {
      const mark = row.get(id);
      return mark ? [{ mark, row }] : [];
    });
    const shown = counting.figures.questions.find((each) => each.id === id);
    if (own.length !== shown?.attempts) continue;
    const facility = own.reduce((sum, { mark }) => sum + mark.marks / mark.maximum, 0) / own.length;
    expect(shown.facility).toBeCloseTo(facility, 3);
  }
});

test("questions that misbehave stand out: those that mislead who knows most, and those with a better liked wrong answer", () => {
  const words = (id: string) => remarkablesOf(counting, id).map(say);
  expect(words("p-lee")).toContain("misled those who knew most");
  expect(words("t-press")).toContain("a wrong answer was given more often than the right one");
});

test("answers come with who gave them: counts add up, and the misled had reached more", async () => {
  const rest = counting.rest.get("p-lee") ?? new Map();
  const answers = await answerFigures("p-lee", rest);
  expect(answers.reduce((sum, { count }) => sum + count, 0)).toBe(rest.size);
  expect(answers.reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1, 9);
  const right = answers.find(({ state }) => state === "full");
  const wrong = answers.find(({ state }) => state === "none");
  expect(wrong?.rest ?? 0).toBeGreaterThan(right?.rest ?? 1);
});

test("a choice narrows them, and what nobody can choose is ignored", async () => {
  const tides = await quiz("Tides and clearances");
  const one = await figuresOf(marsh, tides, chosen());
  const all = await figuresOf(marsh, tides, chosen("attempts=all"));
  expect(all.figures.attempts).toBeGreaterThanOrEqual(one.figures.attempts);
  const days = await Promise.all(
    all.sittings.map((day) => figuresOf(marsh, tides, chosen(`attempts=all&sitting=${day}`))),
  );
  expect(days.reduce((sum, { figures, waiting }) => sum + figures.attempts + waiting, 0)).toBe(
    all.figures.attempts + all.waiting,
  );
  const odd = await figuresOf(marsh, tides, chosen("version=99&sitting=12&section=nobody&attempts=x"));
  expect(odd.choice).toEqual({ attempts: "counting", version: null, sitting: null, section: null });
  expect(odd.figures).toEqual(one.figures);
});

test("what waits for marks is left out and counted; a quiz that nobody took has no figures", async () => {
  const report = await quiz("Report on the meadow count");
  const okafor = await viewer("adaeze.okafor");
  const view = await figuresOf(okafor, report, chosen());
  expect(view.waiting).toBeGreaterThan(0);
  await sql`delete from attempt where quiz_id = ${report}`;
  const none = await figuresOf(okafor, report, chosen());
  expect(none).toMatchObject({ waiting: 0, questions: [], figures: { attempts: 0, mean: null } });
});

test("as a file: a line for each question, with nothing that a program for tables would run", async () => {
  const file = await figuresFile(marsh, paper, chosen());
  const lines = file.trim().split("\r\n");
  expect(lines).toHaveLength(counting.questions.length + 1);
  expect(lines[0]).toContain("number,question,attempts,facility");
  expect(file).not.toMatch(/(^|[\r\n,])"?[=+@\t]/);
});

test("are for instructors of the course alone", async () => {
  for (const name of ["noor.haldane", "yuna.petrides", "adaeze.okafor", "laszlo.hemming"])
    await expect(figuresOf(await viewer(name), paper, chosen())).rejects.toMatchObject({ status: 404 });
});
