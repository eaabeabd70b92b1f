import { describe, expect, test } from "vitest";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { viewer, quiz } = college(sql);
const { openQuiz } = await import("./open-quiz");
const { quizzesOf } = await import("../reveal/quizzes-of-person");
const { markedPaperOf } = await import("../handed-in/marked-paper");
const { askAboutMark } = await import("../marking/mark-queries");
const { returnWork } = await import("../marking/return-work");
const { sayToDesks } = await import("../quizzes/desk-messages");
const { extendRunning } = await import("../quizzes/extend-running");
const { setTimes } = await import("../quizzes/set-times");
const { changeSettings } = await import("../quizzes/change-settings");
const { startAttempt } = await import("../desk/start-attempt");

const NOT_THERE = { status: 404 };

/** Somebody of another course, who is now this in Pollinator Ecology. */
async function enrolled(email: string, role: "assistant" | "observer") {
  const person = await viewer(email);
  await sql`insert into enrolment (person_id, course_id, role)
    select ${person.id}, id, ${role} from course where slug = 'pol-101'`;
  return person;
}
const attemptAt = async (title: string) =>
  (
    await sql`select a.id from attempt a join quiz q on q.id = a.quiz_id join person p on p.id = a.person_id
      where q.title = ${title} and p.email = 'noor.haldane@alderquay.example'`
  )[0]?.id as string;

const assistant = await enrolled("hamid.castellane", "assistant");
const observer = await enrolled("catalina.osei", "observer");
const noor = await viewer("noor.haldane");
const review = await quiz("Field camp review");
const sampling = await quiz("Sampling pollinators");
await sql`insert into given_quiz (quiz_id, person_id) values (${review}, ${assistant.id})`;

const rules = (person: typeof noor, id: string) => [
  returnWork(person, id, {}),
  setTimes(person, id, { closes: new Date(Date.now() + 9e8).toISOString(), reason: "Because." }),
  changeSettings(person, id, { settings: {}, reason: "Because." }),
  extendRunning(person, id, { minutes: 5, reason: "Because." }),
];

describe("an assistant", () => {
  test("sees the quizzes that were given, in lists and by their address, and no others", async () => {
    const seen = (await quizzesOf(assistant)).filter(({ course }) => course.slug === "pol-101");
    expect(seen.map((item) => item.quiz.title)).toEqual(["Field camp review"]);
    await expect(openQuiz(assistant, review)).resolves.toBeTruthy();
    await expect(openQuiz(assistant, sampling)).rejects.toMatchObject(NOT_THERE);
  });

  test("reads what was handed in there, before and after it is returned, and answers", async () => {
    const paper = await attemptAt("Field camp review");
    expect(await markedPaperOf(assistant, paper)).toMatchObject({ mayAsk: true });
    await askAboutMark(assistant, paper, { slot: "1", text: "Look at chapter 2." });
    await sayToDesks(assistant, review, { text: "Ten minutes left." });
    await expect(markedPaperOf(assistant, await attemptAt("Sampling pollinators"))).rejects.toMatchObject(
      NOT_THERE,
    );
    await expect(sayToDesks(assistant, sampling, { text: "Hello" })).rejects.toMatchObject(NOT_THERE);
  });

  test("never returns, rules or allows, and takes nothing", async () => {
    for (const refused of await Promise.allSettled(rules(assistant, review)))
      expect(refused).toMatchObject({ status: "rejected", reason: NOT_THERE });
    await expect(startAttempt(assistant, review)).rejects.toBeTruthy();
  });
});

describe("an observer", () => {
  test("reads what was returned, and nothing before; asks and answers nothing", async () => {
    const paper = await attemptAt("Field camp review");
    expect(await markedPaperOf(observer, paper)).toMatchObject({ mayAsk: false, student: "Noor Haldane" });
    await expect(askAboutMark(observer, paper, { slot: "1", text: "Why?" })).rejects.toMatchObject(NOT_THERE);
    await expect(markedPaperOf(observer, await attemptAt("Sampling pollinators"))).rejects.toMatchObject(
      NOT_THERE,
    );
    const [kept] = await sql`update attempt set returned_at = null where id = ${paper} returning id`;
    await expect(markedPaperOf(observer, paper)).rejects.toMatchObject(NOT_THERE);
    await sql`update attempt set returned_at = now() where id = ${kept?.id}`;
  });

  test("changes nothing and speaks to nobody", async () => {
    for (const refused of await Promise.allSettled([
      ...rules(observer, review),
      sayToDesks(observer, review, { text: "Hello" }),
    ]))
      expect(refused).toMatchObject({ status: "rejected", reason: NOT_THERE });
  });
});

test("a student who asks for what the instructor may is told what a stranger is told", async () => {
  for (const refused of await Promise.allSettled(rules(noor, review)))
    expect(refused).toMatchObject({ status: "rejected", reason: NOT_THERE });
});
