import { randomUUID } from "node:crypto";
import sharp from "sharp";
import { describe, expect, test } from "vitest";
import { bankFollowed, linkedPiece } from "@/core/draft/bank";
import { blankQuestion } from "@/core/draft/blank";
import type { DraftEntry } from "@/core/draft/draft-view";
import { type DraftPiece, OUTLINE, outlineOf, type QuestionPiece } from "@/core/draft/pieces";
import type { Question } from "@/core/kinds/marking";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { viewer } = college(sql);
const { newDraft } = await import("./make-draft");
const { saveDraft } = await import("./save-draft");
const { draftPage } = await import("./draft-page");
const { assignDraft, lookOverAssigning } = await import("./assign-draft");
const { addAsset, assetOf } = await import("./assets");
const { bankOfDraft, putInBank, takeFromBank } = await import("./draft-bank");
const { bankPage } = await import("../bank/bank-page");
const { placeInBank, putAwayInBank, shareBank } = await import("../bank/change-bank");
const { versionContent } = await import("../quizzes/versions");

const ines = await viewer("ines.marsh");
const tomas = await viewer("tomas.oyelaran");
const noor = await viewer("noor.haldane");
const yuna = await viewer("yuna.petrides");
const NAV = "nav-110";
const ANY = { words: "", topic: "", tag: "" };

const statement = (text: string, change: object = {}): Question =>
  ({
    ...blankQuestion("true-or-false", `q${randomUUID().slice(0, 8)}`),
    text,
    right: true,
    ...change,
  }) as Question;

async function write(id: string, entries: readonly (readonly [slot: number, piece: DraftPiece])[]) {
  const view = await draftPage(ines, id);
  const versions = new Map(view.pieces.map(({ slot, version }) => [slot, version]));
  const device = randomUUID();
  const answer = await saveDraft(ines, id, {
    entries: entries.map(
      ([slot, piece], i): DraftEntry => ({
        slot,
        piece,
        base: versions.get(slot) ?? 0,
        device,
        revision: i + 1,
        writtenAt: Date.now(),
      }),
    ),
  });
  expect(answer.refused).toEqual([]);
}

const piecesOf = async (id: string) =>
  new Map((await draftPage(ines, id)).pieces.map(({ slot, piece }) => [slot, piece]));

/** A draft with questions in one section. */
async function draftWith(title: string, questions: readonly Question[], section: object = {}) {
  const { id } = await newDraft(ines, NAV, { title });
  const [first] = outlineOf(await piecesOf(id)).sections;
  const slots = questions.map((_, i) => 200 + i);
  await write(id, [
    ...questions.map((question, i) => [200 + i, { piece: "question", question } as DraftPiece] as const),
    [OUTLINE, { piece: "outline", sections: [{ id: first?.id ?? "s", ...section, questions: slots }] }],
  ]);
  return id;
}

const questionAt = async (id: string, slot: number): Promise<QuestionPiece> => {
  const piece = (await piecesOf(id)).get(slot);
  if (piece?.piece !== "question") throw new Error("no question");
  return piece;
};

const bankId = async (id: string, slot: number): Promise<string> =>
  (await questionAt(id, slot)).bank?.id ?? "";

describe("a question of the bank", () => {
  test("is put in from a quiz, followed by it and by others, and changed for all that follow", async () => {
    const one = await draftWith("One", [statement("It ebbs.")]);
    await putInBank(ines, one, { slot: 200, topic: " Tides ", tags: ["easy", "easy", " spring  tide "] });
    const [line] = (await bankOfDraft(ines, one)).filter(({ words }) => words === "It ebbs.");
    expect(line).toMatchObject({ topic: "Tides", tags: ["easy", "spring tide"], version: 1, from: null });
    const id = line?.id ?? "";
    const other = await draftWith("Two", [statement("Another.")]);
    const [taken] = await takeFromBank(ines, other, { ids: [id] });
    if (!taken) throw new Error("nothing taken");
    const follows = linkedPiece({ ...taken.question, id: "own-name" }, { id, version: 1, follows: true });
    const [section] = outlineOf(await piecesOf(other)).sections;
    await write(other, [
      [300, follows],
      [
        OUTLINE,
        { piece: "outline", sections: [{ ...section, id: section?.id ?? "s", questions: [200, 300] }] },
      ],
    ]);
    // Changed in one quiz, it is that quiz's own; put back, it is the next version, which the other has too.
    const held = await questionAt(one, 200);
    await write(one, [
      [
        200,
        {
          ...held,
          question: { ...held.question, text: "It ebbs twice a day." },
          bank: { id, version: 1, follows: false },
        } as DraftPiece,
      ],
    ]);
    expect((await questionAt(other, 300)).question.text).toBe("It ebbs.");
    await putInBank(ines, one, { slot: 200, topic: "Tides", tags: [] });
    expect(await questionAt(other, 300)).toMatchObject({
      question: { id: "own-name", text: "It ebbs twice a day." },
      bank: { id, version: 2, follows: true },
    });
    const [entry] = (await bankPage(ines, NAV, { ...ANY, words: "twice" })).entries;
    expect(entry?.versions.map(({ version }) => version)).toEqual([2, 1]);
    expect(entry?.whole).toBe("It ebbs twice a day.\nanswer: true\nmarks: 1");
    // A script that says it follows and holds something else is put right when it is read.
    await write(other, [[300, linkedPiece(statement("A lie."), { id, version: 2, follows: true })]]);
    expect((await questionAt(other, 300)).question.text).toBe("It ebbs twice a day.");
  });

  test("is taken only when it is right, and brings its pictures", async () => {
    const bytes = await sharp({ create: { width: 30, height: 20, channels: 3, background: "#a33" } })
      .png()
      .toBuffer();
    const draft = await draftWith("Pictures", [
      statement("What is this?", { figure: "sign" }),
      statement("", {}),
    ]);
    const { asset } = await addAsset(ines, draft, bytes);
    await write(draft, [
      [400, { piece: "picture", picture: { id: "sign", alt: "A sign", asset, aspect: 1.5 } }],
    ]);
    await expect(putInBank(ines, draft, { slot: 201, topic: "Signs", tags: [] })).rejects.toMatchObject({
      status: 422,
    });
    await expect(putInBank(ines, draft, { slot: 200, topic: " ", tags: [] })).rejects.toMatchObject({
      status: 422,
    });
    await putInBank(ines, draft, { slot: 200, topic: "Signs", tags: [] });
    const [taken] = await takeFromBank(ines, draft, { topic: "Signs" });
    expect(taken?.pictures).toMatchObject([{ alt: "A sign", asset }]);
    // The draft that gave it shows it by its new name.
    const pieces = await piecesOf(draft);
    const question = (pieces.get(200) as QuestionPiece).question;
    expect(
      [...pieces.values()].some((each) => each.piece === "picture" && each.picture.id === question.figure),
    ).toBe(true);
  });
});

test("a section that draws from a topic has all its questions when it is assigned, and the paper is fixed then", async () => {
  const source = await draftWith(
    "Lights",
    ["Red.", "Green.", "White."].map((text) => statement(text)),
  );
  for (const slot of [200, 201, 202])
    await putInBank(ines, source, { slot, topic: "Lights", tags: slot === 202 ? ["plain"] : [] });
  const quiz = await draftWith("Drawn", [], { draw: 2, apart: 2, bank: { topic: "Lights" } });
  const texts = async (id: string) => {
    const pieces = await piecesOf(id);
    return outlineOf(pieces).sections.flatMap(({ questions }) =>
      questions.map((slot) => (pieces.get(slot) as QuestionPiece).question.text),
    );
  };
  expect(await texts(quiz)).toEqual(["Red.", "Green.", "White."]);
  // One more comes, and one goes away.
  const more = await draftWith("More", [statement("Yellow.")]);
  await putInBank(ines, more, { slot: 200, topic: "Lights", tags: [] });
  await putAwayInBank(ines, NAV, { id: await bankId(source, 200) });
  const closes = new Date(Date.now() + 86_400_000).toISOString();
  const window = { opens: null, due: closes, closes };
  // What is looked over is what is assigned, also where the bank changed since the draft was opened.
  const { expects } = await lookOverAssigning(ines, quiz, window);
  const { quizId } = await assignDraft(ines, quiz, { ...window, expects });
  const [version] = await sql<{ id: string }[]>`select id from quiz_version where quiz_id = ${quizId}`;
  const { sections } = await versionContent(version?.id ?? "");
  expect(sections).toMatchObject([{ draw: 2, apart: 2 }]);
  expect(sections[0]?.questions.map(({ text }) => text)).toEqual(["Green.", "White.", "Yellow."]);
  expect(JSON.stringify(sections)).not.toContain("bank");
  // Where it is used is known, and how it behaved.
  const { entries } = await bankPage(ines, NAV, { ...ANY, topic: "Lights", tag: "plain" });
  expect(
    entries.map(({ words, used }) => [words, used.map(({ title, attempts }) => [title, attempts])]),
  ).toEqual([["White.", [["Drawn", 0]]]]);
  // Another topic: what is drawn goes with it; what was changed here stays.
  await placeInBank(ines, NAV, { id: await bankId(source, 201), topic: "Buoys", tags: [] });
  expect(await texts(quiz)).toEqual(["White.", "Yellow."]);
});

describe("another course", () => {
  test("takes from a bank only while it is shared, with files of its own", async () => {
    // Whoever shares teaches both courses.
    await sql`insert into course (id, slug, code, title) values (gen_random_uuid(), 'nav-201', 'NAV 201', 'Ocean Navigation')`;
    await sql`insert into enrolment (course_id, person_id, role)
      select c.id, p.id, 'instructor' from course c, person p
      where c.slug = 'nav-201' and p.email like 'ines.marsh@%'`;
    const bytes = await sharp({ create: { width: 12, height: 12, channels: 3, background: "#161" } })
      .png()
      .toBuffer();
    const mine = await draftWith("Shared", [statement("Which is it?", { figure: "it" })]);
    const { asset } = await addAsset(ines, mine, bytes);
    await write(mine, [[400, { piece: "picture", picture: { id: "it", alt: "It", asset, aspect: 1 } }]]);
    await putInBank(ines, mine, { slot: 200, topic: "Shared ones", tags: [] });
    const { id: theirs } = await newDraft(ines, "nav-201", { title: "Theirs" });
    const seen = async () => (await bankOfDraft(ines, theirs)).filter(({ topic }) => topic === "Shared ones");
    expect(await seen()).toEqual([]);
    expect(await takeFromBank(ines, theirs, { ids: [await bankId(mine, 200)] })).toEqual([]);
    await shareBank(ines, NAV, { with: "nav-201", shares: true });
    expect(await seen()).toMatchObject([{ words: "Which is it?", from: "Coastal Navigation" }]);
    const [taken] = await takeFromBank(ines, theirs, { topic: "Shared ones" });
    const [picture] = taken?.pictures ?? [];
    expect(picture?.asset).not.toBe(asset);
    expect((await assetOf(ines, theirs, picture?.asset ?? "")).bytes.equals(bytes)).toBe(true);
    // What is another course's is changed there.
    const page = await bankPage(ines, "nav-201", ANY);
    expect(page.entries.find(({ topic }) => topic === "Shared ones")).toMatchObject({
      whole: null,
      versions: [],
    });
    await expect(putAwayInBank(ines, "nav-201", { id: taken?.id })).rejects.toMatchObject({ status: 404 });
    // Put into the bank from there, it is that course's own; the other's stays as it is.
    const link = { id: taken?.id ?? "", version: 1, follows: false };
    const own = linkedPiece(statement("Which is it, really?"), link);
    const pieces = (await draftPage(ines, theirs)).pieces;
    const [section] = outlineOf(new Map(pieces.map((each) => [each.slot, each.piece]))).sections;
    await write(theirs, [
      [500, own],
      [OUTLINE, { piece: "outline", sections: [{ id: section?.id ?? "s", questions: [500] }] }],
    ]);
    await putInBank(ines, theirs, { slot: 500, topic: "Shared ones", tags: [] });
    expect((await seen()).map(({ words, from, version }) => [words, from, version]).sort()).toEqual([
      ["Which is it, really?", null, 1],
      ["Which is it?", "Coastal Navigation", 1],
    ]);
    await shareBank(ines, NAV, { with: "nav-201", shares: false });
    expect((await seen()).map(({ words }) => words)).toEqual(["Which is it, really?"]);
    // With a course that one does not teach it cannot be shared.
    await expect(shareBank(ines, NAV, { with: "brd-120", shares: true })).rejects.toMatchObject({
      status: 404,
    });
  });
});

test("nobody but the instructors of its course: not another's, not assistants or students", async () => {
  const id = await draftWith("Closed", [statement("Locked?")]);
  for (const other of [tomas, noor, yuna])
    for (const does of [
      () => bankPage(other, NAV, ANY),
      () => bankOfDraft(other, id),
      () => takeFromBank(other, id, { topic: "Tides" }),
      () => putInBank(other, id, { slot: 200, topic: "Mine", tags: [] }),
      () => placeInBank(other, NAV, { id: randomUUID(), topic: "Mine", tags: [] }),
      () => putAwayInBank(other, NAV, { id: randomUUID() }),
      () => shareBank(other, NAV, { with: "brd-120", shares: true }),
    ])
      await expect(does()).rejects.toMatchObject({ status: 404 });
});

test("one topic in two sections has names of its own in each", async () => {
  const source = await draftWith("Named", [statement("Once?")]);
  await putInBank(ines, source, { slot: 200, topic: "Named", tags: [] });
  const id = await draftWith("Twice", [], { bank: { topic: "Named" } });
  const first = outlineOf(await piecesOf(id)).sections;
  const second = { id: "second", bank: { topic: "Named" }, questions: [] };
  await write(id, [[OUTLINE, { piece: "outline", sections: [...first, second] }]]);
  const pieces = await piecesOf(id);
  const names = outlineOf(pieces).sections.flatMap(({ questions }) =>
    questions.map((slot) => (pieces.get(slot) as QuestionPiece).question.id),
  );
  expect(names).toHaveLength(2);
  expect(new Set(names).size).toBe(2);
});

test("a draft that has all as its banks have it is left alone; taken in twice changes nothing more", async () => {
  const id = await draftWith("Still", [statement("Still?")], { bank: { topic: "Still" } });
  await putInBank(ines, id, { slot: 200, topic: "Still", tags: [] });
  const first = await piecesOf(id);
  const bank = await takeFromBank(ines, id, { topic: "Still" });
  let slot = 900;
  const again = bankFollowed(first, bank, () => slot++);
  expect([...again]).toEqual([]);
  expect(outlineOf(first).sections[0]?.questions).toEqual([200]);
});
