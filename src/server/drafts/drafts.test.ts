import { randomUUID } from "node:crypto";
import sharp from "sharp";
import { describe, expect, test } from "vitest";
import { blankQuestion } from "@/core/draft/blank";
import type { DraftEntry, StandingPiece } from "@/core/draft/draft-view";
import { type DraftPiece, HEAD, OUTLINE, RULES } from "@/core/draft/pieces";
import type { Question } from "@/core/kinds/marking";
import { college, writing } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";
import { english } from "../../../tests/support/english";

const sql = await ownDatabase();
const { viewer, quiz } = college(sql);
const { newDraft, draftOfQuiz } = await import("./make-draft");
const { saveDraft } = await import("./save-draft");
const { draftPage } = await import("./draft-page");
const { draftNews } = await import("./draft-news");
const { bringBack, savedStates } = await import("./draft-history");
const { addAsset, assetOf } = await import("./assets");
const { assignDraft, lookOverAssigning } = await import("./assign-draft");
const { draftsOfCourse } = await import("./drafts-of-course");
const { bringDraftBack, putDraftAway } = await import("./put-away");
const { changeSettings } = await import("../quizzes/change-settings");
const { startAttempt } = await import("../desk/start-attempt");
const { confirmStart, openDesk } = await import("../desk/open-desk");
const { saveAnswers } = await import("../desk/save-answers");
const { handInAttempt } = await import("../desk/hand-in");

const TIDES = "Tides and clearances";
const ines = await viewer("ines.marsh");
const tomas = await viewer("tomas.oyelaran");
const noor = await viewer("noor.haldane");
const yuna = await viewer("yuna.petrides");
const observer = await viewer("laszlo.hemming");
const SLUG = "nav-110";

/** A page that writes: each change has a number of its own. */
function page() {
  const device = randomUUID();
  let revision = 0;
  return {
    device,
    entry(slot: number, piece: DraftPiece, base: number): DraftEntry {
      revision += 1;
      return { slot, piece, base, device, revision, writtenAt: Date.now() };
    },
  };
}

const head = (title: string): DraftPiece => ({ piece: "head", title });
const question = (id: string, change: object = {}): DraftPiece => ({
  piece: "question",
  question: { ...blankQuestion("true-or-false", id), text: "It ebbs.", right: true, ...change } as Question,
});
const pieceAt = (pieces: readonly StandingPiece[], slot: number) => pieces.find((each) => each.slot === slot);

/** A draft with one question that can be assigned. */
async function readyDraft(title: string) {
  const { id } = await newDraft(ines, SLUG, { title });
  const view = await draftPage(ines, id);
  const outline = pieceAt(view.pieces, OUTLINE);
  if (outline?.piece.piece !== "outline") throw new Error("no outline");
  const [section] = outline.piece.sections;
  const desk = page();
  const sections = [{ ...section, id: section?.id ?? "s", questions: [200] }];
  await saveDraft(ines, id, {
    entries: [desk.entry(200, question("q1"), 0), desk.entry(OUTLINE, { piece: "outline", sections }, 1)],
  });
  return { id, desk };
}

describe("who may", () => {
  test("nobody but the instructors of its course: not another's, not assistants, observers or students", async () => {
    const { id } = await newDraft(ines, SLUG, { title: "Knots" });
    for (const other of [tomas, noor, yuna, observer]) {
      const deeds = [
        () => draftPage(other, id),
        () => saveDraft(other, id, { entries: [] }),
        () => draftNews(other, id, { change: 0, device: randomUUID(), slot: HEAD }),
        () => savedStates(other, id),
        () => bringBack(other, id, { change: 1 }),
        () => addAsset(other, id, Buffer.from("x")),
        () => lookOverAssigning(other, id, {}),
        () => assignDraft(other, id, {}),
        () => newDraft(other, SLUG, { title: "Mine" }),
        () => draftsOfCourse(other, SLUG),
        async () => draftOfQuiz(other, await quiz(TIDES)),
      ];
      for (const deed of deeds) await expect(deed()).rejects.toMatchObject({ status: 404 });
    }
    await expect(draftPage(ines, "no-id")).rejects.toMatchObject({ status: 404 });
    await expect(newDraft(ines, SLUG, { title: "  " })).rejects.toMatchObject({ status: 422 });
  });
});

describe("keeping", () => {
  test("what is written is there, the same entry again is the same, and another under its number is refused", async () => {
    const { id } = await newDraft(ines, SLUG, { title: "Knots" });
    const desk = page();
    const entry = desk.entry(HEAD, head("Knots and bends"), 1);
    const first = await saveDraft(ines, id, { entries: [entry] });
    expect(first.saved).toEqual([expect.objectContaining({ slot: HEAD, version: 2 })]);
    expect((await saveDraft(ines, id, { entries: [entry] })).saved).toEqual(first.saved);
    const other = await saveDraft(ines, id, { entries: [{ ...entry, piece: head("Something else") }] });
    expect(other.refused).toEqual([expect.objectContaining({ type: "number-taken" })]);
    const { pieces } = await draftPage(ines, id);
    expect(pieceAt(pieces, HEAD)?.piece).toEqual(head("Knots and bends"));
    expect((await draftsOfCourse(ines, SLUG)).drafts.find((each) => each.id === id)?.title).toBe(
      "Knots and bends",
    );
  });

  test("of two pages the second is told what stands, and nothing is overwritten; its own later change holds", async () => {
    const { id } = await newDraft(ines, SLUG, { title: "Knots" });
    const [one, two] = [page(), page()];
    await saveDraft(ines, id, { entries: [one.entry(HEAD, head("by one"), 1)] });
    const refused = await saveDraft(ines, id, { entries: [two.entry(HEAD, head("by two"), 1)] });
    expect(refused.refused).toEqual([expect.objectContaining({ type: "written-elsewhere" })]);
    expect(refused.standing).toEqual([
      expect.objectContaining({ slot: HEAD, version: 2, piece: head("by one"), author: ines.name }),
    ]);
    // One's own page goes on without waiting for its answer.
    await saveDraft(ines, id, { entries: [one.entry(HEAD, head("by one again"), 1)] });
    await saveDraft(ines, id, { entries: [two.entry(HEAD, head("both"), 3)] });
    const late = one.entry(HEAD, head("too old"), 3);
    expect((await saveDraft(ines, id, { entries: [late] })).refused).toHaveLength(1);
    expect(pieceAt((await draftPage(ines, id)).pieces, HEAD)?.piece).toEqual(head("both"));
    // Other pieces meet nowhere.
    const apart = await saveDraft(ines, id, { entries: [one.entry(300, question("q1"), 0)] });
    expect(apart.refused).toEqual([]);
  });

  test("an older change of a page never takes the place of its newer one", async () => {
    const { id } = await newDraft(ines, SLUG, { title: "Knots" });
    const desk = page();
    const [older, newer] = [desk.entry(HEAD, head("older"), 1), desk.entry(HEAD, head("newer"), 1)];
    await saveDraft(ines, id, { entries: [newer] });
    const answer = await saveDraft(ines, id, { entries: [older] });
    expect(answer.saved).toEqual([]);
    expect(pieceAt((await draftPage(ines, id)).pieces, HEAD)?.piece).toEqual(head("newer"));
  });

  test("two at once make one change after the other, and neither is lost in silence", async () => {
    const { id } = await newDraft(ines, SLUG, { title: "Knots" });
    const pages = Array.from({ length: 6 }, page);
    const answers = await Promise.all(
      pages.map((each, i) => saveDraft(ines, id, { entries: [each.entry(HEAD, head(`by ${i}`), 1)] })),
    );
    expect(answers.filter(({ saved }) => saved.length === 1)).toHaveLength(1);
    expect(answers.filter(({ standing }) => standing.length === 1)).toHaveLength(5);
  });

  test("what cannot stand in a quiz is refused by itself, and what comes with it is kept", async () => {
    const { id } = await newDraft(ines, SLUG, { title: "Knots" });
    const desk = page();
    const bad = { piece: "question", question: { id: "q", kind: "riddle" } } as unknown as DraftPiece;
    const huge = question("q2", { text: "x".repeat(310_000) });
    const answer = await saveDraft(ines, id, {
      entries: [desk.entry(300, bad, 0), desk.entry(301, huge, 0), desk.entry(302, question("q3"), 0)],
    });
    expect(answer.refused.map(({ slot, type }) => [slot, type])).toEqual([
      [300, "bad-input"],
      [301, "bad-input"],
    ]);
    expect(answer.saved.map(({ slot }) => slot)).toEqual([302]);
  });

  test("nothing that runs comes to another author's page", async () => {
    const { id } = await newDraft(ines, SLUG, { title: "Knots" });
    const desk = page();
    const text = '<p onclick="alert(1)">a<script>alert(1)</script><img src=x onerror=alert(1)></p>';
    await saveDraft(ines, id, { entries: [desk.entry(300, question("q1", { text, worked: text }), 0)] });
    const held = pieceAt((await draftPage(ines, id)).pieces, 300)?.piece;
    expect(JSON.stringify(held)).not.toMatch(/script|onclick|onerror|<img/);
  });
});

describe("two authors", () => {
  test("hear of each other and of what the other wrote, once each", async () => {
    const { id } = await newDraft(ines, SLUG, { title: "Knots" });
    await sql`insert into enrolment (course_id, person_id, role) select course_id, ${tomas.id}, 'instructor' from draft where id = ${id}`;
    try {
      const [one, two] = [page(), page()];
      const ask = (who: typeof ines, device: string, change: number) =>
        draftNews(who, id, { change, device, slot: HEAD });
      const first = await ask(ines, one.device, 0);
      expect(first.others).toEqual([]);
      await ask(tomas, two.device, first.change);
      await saveDraft(tomas, id, { entries: [two.entry(300, question("q1"), 0)] });
      const news = await ask(ines, one.device, first.change);
      expect(news.pieces.map(({ slot, author }) => [slot, author])).toEqual([[300, tomas.name]]);
      expect(news.others).toEqual([{ name: tomas.name, slot: HEAD, isSelf: false }]);
      expect((await ask(ines, one.device, news.change)).pieces).toEqual([]);
      await draftNews(tomas, id, { change: 0, device: two.device, slot: HEAD, leaves: true });
      expect((await ask(ines, one.device, news.change)).others).toEqual([]);
    } finally {
      await sql`delete from enrolment where person_id = ${tomas.id} and course_id = (select course_id from draft where id = ${id})`;
    }
  });
});

test("a saved state is brought back as a change, and what stood until then can be had again", async () => {
  const { id } = await newDraft(ines, SLUG, { title: "first" });
  const desk = page();
  const [begun] = await savedStates(ines, id);
  await sql`update draft_log set saved_at = saved_at - interval '20 minutes' where draft_id = ${id}`;
  await saveDraft(ines, id, {
    entries: [desk.entry(HEAD, head("second"), 1), desk.entry(300, question("q"), 0)],
  });
  const states = await savedStates(ines, id);
  expect(states.map(({ changes }) => changes)).toEqual([2, 3]);
  const changed = await bringBack(ines, id, { change: begun?.change });
  expect(changed.map(({ slot }) => slot)).toEqual([HEAD]);
  expect(pieceAt((await draftPage(ines, id)).pieces, HEAD)?.piece).toEqual(head("first"));
  await bringBack(ines, id, { change: states[0]?.change });
  expect(pieceAt((await draftPage(ines, id)).pieces, HEAD)?.piece).toEqual(head("second"));
  await expect(bringBack(ines, id, { change: 0 })).rejects.toMatchObject({ status: 422 });
});

describe("pictures", () => {
  const png = () =>
    sharp({ create: { width: 30, height: 20, channels: 3, background: "#abc" } })
      .png()
      .toBuffer();

  test("are told by their content, kept once, and had by the authors of the course alone", async () => {
    const { id } = await newDraft(ines, SLUG, { title: "Knots" });
    const bytes = await png();
    const kept = await addAsset(ines, id, bytes);
    expect(kept).toMatchObject({ type: "image/png", aspect: 1.5 });
    expect((await addAsset(ines, id, bytes)).asset).toBe(kept.asset);
    expect((await assetOf(ines, id, kept.asset)).bytes.equals(bytes)).toBe(true);
    await expect(assetOf(noor, id, kept.asset)).rejects.toMatchObject({ status: 404 });
    await expect(addAsset(ines, id, Buffer.from("<svg onload='alert(1)'/>"))).rejects.toMatchObject({
      status: 422,
    });
  });

  test("of another course cannot be shown by naming them", async () => {
    const theirs = await newDraft(tomas, "brd-120", { title: "Theirs" });
    const { asset } = await addAsset(tomas, theirs.id, await png());
    const { id } = await newDraft(ines, SLUG, { title: "Mine" });
    const piece = { piece: "picture" as const, picture: { id: "a", alt: "", asset, aspect: 1.5 } };
    const desk = page();
    const answer = await saveDraft(ines, id, { entries: [desk.entry(400, piece, 0)] });
    expect(answer.refused.map(({ sentence }) => english(sentence))).toEqual([
      "The picture or recording is not among the files of this course. Bring it again.",
    ]);
    // Of one's own course it is kept.
    const own = await addAsset(ines, id, await png());
    const kept = { ...piece, picture: { ...piece.picture, asset: own.asset } };
    expect((await saveDraft(ines, id, { entries: [desk.entry(400, kept, 0)] })).refused).toEqual([]);
    await expect(assetOf(ines, id, asset)).rejects.toMatchObject({ status: 404 });
  });
});

describe("assigning", () => {
  test("is refused while something is to be put right, and changes nothing then", async () => {
    const { id } = await newDraft(ines, SLUG, { title: "Knots" });
    const count = async () => (await sql`select count(*)::int n from quiz`)[0]?.n;
    const before = await count();
    await expect(assignDraft(ines, id, {})).rejects.toMatchObject({ status: 422, type: "to-put-right" });
    const ready = await readyDraft("Knots");
    await expect(
      assignDraft(ines, ready.id, { opens: "2030-01-02T00:00:00Z", closes: "2030-01-01T00:00:00Z" }),
    ).rejects.toMatchObject({ status: 422 });
    // "After closing" never comes without a closing: said when it is looked over, refused when it is done.
    const looked = await lookOverAssigning(ines, ready.id, {});
    expect(looked.contradictions).toHaveLength(1);
    await expect(assignDraft(ines, ready.id, {})).rejects.toMatchObject({ status: 422 });
    await expect(
      assignDraft(ines, ready.id, { closes: "2030-01-01T00:00:00Z", onlyFor: [ines.id] }),
    ).rejects.toMatchObject({ status: 422 });
    expect(await count()).toBe(before);
  });

  test("makes a version for those it is set for, who are told; later changes hold for those who begin then", async () => {
    const { id, desk } = await readyDraft("Knots for two");
    const wanted = { closes: "2030-01-01T00:00:00Z", onlyFor: [noor.id] };
    const looked = await lookOverAssigning(ines, id, wanted);
    expect(looked).toMatchObject({ quizId: null, version: 1, students: 1, told: 1, contradictions: [] });
    expect(await sql`select 1 from quiz where title = 'Knots for two'`).toHaveLength(0);
    const done = await assignDraft(ines, id, { ...wanted, expects: looked.expects });
    const quizId = done.quizId ?? "";
    const [notice] =
      await sql`select text, path from person_notice where person_id = ${noor.id} order by created_at desc limit 1`;
    expect(english(notice?.text)).toContain("“Knots for two” is set for you.");
    expect(notice?.path).toBe(`/quizzes/${quizId}`);

    const begun = await startAttempt(noor, quizId);
    await openDesk(noor, begun.attemptId);
    await confirmStart(noor, begun.attemptId);
    await saveAnswers(noor.token, begun.attemptId, writing(1, { value: true }));
    await handInAttempt(noor, begun.attemptId, {});

    // The key was wrong: what was handed in keeps its marks, and it is said that it can be marked again.
    await saveDraft(ines, id, { entries: [desk.entry(200, question("q1", { right: false }), 1)] });
    const again = await lookOverAssigning(ines, id, {});
    expect(again).toMatchObject({ version: 2, handedIn: 1, running: 0 });
    expect(again.questions).toEqual([
      expect.objectContaining({ id: "q1", change: "marked-otherwise", attempts: 1 }),
    ]);
    await expect(assignDraft(ines, id, {})).rejects.toMatchObject({ status: 422 });
    await expect(assignDraft(ines, id, { reason: "x", expects: again.expects - 1 })).rejects.toMatchObject({
      status: 409,
      type: "changed-meanwhile",
    });
    await assignDraft(ines, id, { reason: "the key was wrong", expects: again.expects });
    const [earned] = await sql`select earned, version_id from attempt where id = ${begun.attemptId}`;
    expect(Number(earned?.earned)).toBe(1);
    const [now] = await sql`select current_version from quiz where id = ${quizId}`;
    expect(now?.current_version).toBe(2);
    // Nothing was changed since: no new version.
    expect((await lookOverAssigning(ines, id, {})).version).toBeNull();
  });

  test("a quiz that was assigned is written on in one draft, which makes the same version again", async () => {
    const tides = await quiz(TIDES);
    const made = await Promise.all([draftOfQuiz(ines, tides), draftOfQuiz(ines, tides)]);
    expect(made[0]).toEqual(made[1]);
    const looked = await lookOverAssigning(ines, made[0].id, {});
    expect(looked).toMatchObject({ version: null, questions: [] });
  });

  test("settings that were changed elsewhere are in the draft, and its own changes of them stay", async () => {
    const tides = await quiz(TIDES);
    const { id } = await draftOfQuiz(ines, tides);
    const rules = async () => {
      const piece = pieceAt((await draftPage(ines, id)).pieces, RULES);
      if (piece?.piece.piece !== "rules") throw new Error("no rules");
      return { version: piece.version, rules: piece.piece.rules };
    };
    const before = await rules();
    const mine = { ...before.rules, counts: "latest" as const };
    await saveDraft(ines, id, {
      entries: [page().entry(RULES, { piece: "rules", rules: mine }, before.version)],
    });
    await changeSettings(ines, tides, { settings: { timeLimit: 33 }, reason: "too short" });
    expect((await rules()).rules).toMatchObject({ counts: "latest", timeLimit: 33 });
    await assignDraft(ines, id, { reason: "the latest counts" });
    const [set] = await sql`select settings from quiz where id = ${tides}`;
    expect(set?.settings).toMatchObject({ counts: "latest", timeLimit: 33 });
  });

  test("a key that was put right elsewhere is in the draft, unless the draft changed that question itself", async () => {
    const { id, desk } = await readyDraft("Put right elsewhere");
    const [outline] = (await draftPage(ines, id)).pieces.filter(({ slot }) => slot === OUTLINE);
    if (outline?.piece.piece !== "outline") throw new Error("no outline");
    const sections = outline.piece.sections.map((each) => ({ ...each, questions: [200, 201] }));
    await saveDraft(ines, id, {
      entries: [
        desk.entry(201, question("q2"), 0),
        desk.entry(OUTLINE, { piece: "outline", sections }, outline.version),
      ],
    });
    const { quizId } = await assignDraft(ines, id, { closes: "2030-01-01T00:00:00Z", onlyFor: [noor.id] });
    // As marking again does it: the next version, with both keys changed.
    await sql`insert into quiz_version (id, quiz_id, number, content, facts)
      select ${randomUUID()}, quiz_id, 2, replace(content::text, '"right": true', '"right": false')::jsonb, facts
      from quiz_version where quiz_id = ${quizId} and number = 1`;
    await sql`update quiz set current_version = 2 where id = ${quizId}`;
    await saveDraft(ines, id, { entries: [desk.entry(201, question("q2", { text: "It floods." }), 1)] });
    const { pieces } = await draftPage(ines, id);
    expect(pieceAt(pieces, 200)?.piece).toMatchObject({ question: { right: false } });
    expect(pieceAt(pieces, 201)?.piece).toMatchObject({ question: { right: true, text: "It floods." } });
    const looked = await lookOverAssigning(ines, id, {});
    expect(looked.questions.map((each) => each.id)).toEqual(["q2"]);
  });

  test("what comes first cannot wait for itself, nor be of another course", async () => {
    const tides = await quiz(TIDES);
    const { id } = await draftOfQuiz(ines, tides);
    const wait = (quizId: string) => lookOverAssigning(ines, id, { first: { quizId, atLeast: "60" } });
    await expect(wait(tides)).rejects.toMatchObject({ status: 422 });
    const [other] =
      await sql`select q.id from quiz q join course c on c.id = q.course_id where c.slug = 'brd-120' limit 1`;
    await expect(wait(other?.id)).rejects.toMatchObject({ status: 422 });
    await expect(wait(randomUUID())).rejects.toMatchObject({ status: 422 });
  });
});

test("a draft is put away and brought back; one of a quiz stays, and nobody else does either", async () => {
  const { id } = await newDraft(ines, SLUG, { title: "Not wanted" });
  const listed = async () => {
    const { drafts, away } = await draftsOfCourse(ines, SLUG);
    const has = (lines: typeof drafts) => lines.some((line) => line.id === id);
    return [has(drafts), has(away)];
  };
  for (const other of [tomas, noor, yuna, observer]) {
    await expect(putDraftAway(other, id)).rejects.toMatchObject({ status: 404 });
    await expect(bringDraftBack(other, SLUG, id)).rejects.toMatchObject({ status: 404 });
  }
  await expect(bringDraftBack(ines, SLUG, id)).rejects.toMatchObject({ status: 404 });
  await putDraftAway(ines, id);
  expect(await listed()).toEqual([false, true]);
  // Nothing is written in it, shown or tried while it is away; what an open page still sends is refused.
  await expect(draftPage(ines, id)).rejects.toMatchObject({ status: 404 });
  await expect(saveDraft(ines, id, { entries: [] })).rejects.toMatchObject({ status: 404 });
  await expect(putDraftAway(ines, id)).rejects.toMatchObject({ status: 404 });
  await bringDraftBack(ines, SLUG, id);
  expect(await listed()).toEqual([true, false]);
  expect((await draftPage(ines, id)).pieces.length).toBeGreaterThan(2);
  const ofQuiz = await draftOfQuiz(ines, await quiz(TIDES));
  await expect(putDraftAway(ines, ofQuiz.id)).rejects.toMatchObject({ status: 409 });
});
