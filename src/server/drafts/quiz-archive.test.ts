import { strToU8, zipSync } from "fflate";
import sharp from "sharp";
import { describe, expect, test } from "vitest";
import { assembled } from "@/core/draft/assembled";
import { asFile } from "@/core/quiz/as-file";
import { type QuizFile, readQuizFile } from "@/core/quiz/quiz-file";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { viewer } = college(sql);
const { bringQuiz } = await import("./bring-quiz");
const { broughtQuiz, QUIZ_NAME } = await import("./quiz-archive");
const { quizArchive } = await import("./take-out-quiz");
const { draftOfQuiz } = await import("./make-draft");
const { draftPage } = await import("./draft-page");

const ines = await viewer("ines.marsh");
const noor = await viewer("noor.haldane");
const tomas = await viewer("tomas.oyelaran");
const SLUG = "nav-110";

const png = (await sharp({ create: { width: 60, height: 40, channels: 3, background: "#335" } })
  .png()
  .toBuffer()) as Buffer;

const quiz = {
  format: "shizuka-quiz",
  version: 2,
  title: "Knots & bends",
  settings: {
    attempts: 2,
    counts: "best",
    reveal: {
      total: "at-hand-in",
      marks: "at-hand-in",
      written: "at-hand-in",
      right: "never",
      worked: "never",
    },
  },
  rules: { order: "free" },
  pictures: [{ id: "bend", alt: "A bend", file: "bend.png" }],
  sections: [
    {
      questions: [
        { id: "q1", kind: "true-or-false", text: "It holds.", figure: "bend", marks: 1, right: true },
      ],
    },
  ],
};
const packed = (files: Record<string, Uint8Array>) => Buffer.from(zipSync(files));
const archive = (change: object = {}, beside: Record<string, Uint8Array> = { "bend.png": png }) =>
  packed({ [QUIZ_NAME]: strToU8(JSON.stringify({ ...quiz, ...change })), ...beside });

async function bytesOf(stream: ReadableStream): Promise<Buffer> {
  return Buffer.from(await new Response(stream).arrayBuffer());
}

const piecesOf = async (who: typeof ines, id: string) =>
  new Map((await draftPage(who, id)).pieces.map(({ slot, piece }) => [slot, piece]));

const titles = (
  await sql<{ title: string; email: string; slug: string; id: string }[]>`
    select q.id, q.title, p.email, c.slug from quiz q join course c on c.id = q.course_id
    join lateral (select person_id from enrolment where course_id = c.id and role = 'instructor' limit 1) e on true
    join person p on p.id = e.person_id order by q.title`
).map(({ title, email, slug, id }) => [title, email.split("@")[0] ?? "", slug, id] as const);

describe("a quiz taken out and brought in again", () => {
  test.each(titles)("%s is the same, with all that it shows", async (_, who, slug, quizId) => {
    const author = await viewer(who);
    const { id } = await draftOfQuiz(author, quizId);
    const { name, body } = await quizArchive(author, id);
    expect(name).toMatch(/^[a-z0-9-]+\.zip$/);
    const bytes = await bytesOf(body);
    const { file, beside } = await broughtQuiz(bytes);
    const reading = readQuizFile(file);
    expect(reading.ok ? [] : reading.mistakes).toEqual([]);
    const again = await bringQuiz(author, slug, bytes);
    const [before, after] = [await piecesOf(author, id), await piecesOf(author, again.id)];
    // The same files of the course, by the same content.
    const asset = (each: string) => ({ file: each });
    const whole = (pieces: typeof before) => assembled(pieces, { picture: asset, recording: asset }).quiz;
    expect(whole(after)).toEqual(whole(before));
    const shown = new Set(
      [...before.values()].flatMap((piece) =>
        piece.piece === "picture"
          ? [piece.picture.asset]
          : piece.piece === "recording"
            ? [piece.recording.asset]
            : [],
      ),
    );
    expect(beside.size).toBe(shown.size);
  });
});

describe("what is brought", () => {
  test("is a file by itself, one of version 1, or an archive, packed in a folder too", async () => {
    const { pictures: _, ...bare } = quiz;
    const [section] = bare.sections;
    const [{ figure: __, ...question }] = (section?.questions ?? []) as unknown as [{ figure: string }];
    const alone = { ...bare, sections: [{ questions: [question] }] };
    const one = { ...alone, version: 1, settings: undefined, rules: { ...quiz.settings, ...quiz.rules } };
    for (const file of [alone, one]) {
      const { id } = await bringQuiz(ines, SLUG, Buffer.from(`\ufeff${JSON.stringify(file)}`));
      const read = readQuizFile(JSON.parse(JSON.stringify(asFile(assembled(await piecesOf(ines, id)).quiz))));
      expect(read.ok && read.quiz.title).toBe("Knots & bends");
    }
    const folder = packed({
      "knots/quiz.json": strToU8(JSON.stringify(quiz)),
      "knots/bend.png": png,
      "knots/notes.txt": strToU8("not asked for"),
    });
    const { id } = await bringQuiz(ines, SLUG, folder);
    const pictures = [...(await piecesOf(ines, id)).values()].filter(({ piece }) => piece === "picture");
    expect(pictures).toMatchObject([{ picture: { id: "bend", alt: "A bend", aspect: 1.5 } }]);
  });

  const drafts = async () =>
    (await sql<{ count: number }[]>`select count(*)::int as count from draft`)[0]?.count;

  test.each<[string, () => Buffer | Promise<Buffer>, string]>([
    ["nothing", () => Buffer.alloc(0), "no quiz file"],
    ["another file", () => png, "no quiz file"],
    ["half an archive", () => archive().subarray(0, 200), "cannot be unpacked"],
    ["an archive without a quiz", () => packed({ "a.txt": strToU8("a") }), "holds no “quiz.json”"],
    ["a quiz with mistakes", () => archive({ title: "", sections: [] }), "title: "],
    ["a picture that is not there", () => archive({}, {}), "bend.png: does not stand beside"],
    ["a picture that is none", () => archive({}, { "bend.png": strToU8("plain words") }), "Bring a picture"],
    [
      "a drawing that runs",
      () => archive({}, { "bend.png": strToU8("<svg xmlns='http://www.w3.org/2000/svg'><script/></svg>") }),
      "something that runs",
    ],
    [
      "too many files",
      () => archive({}, Object.fromEntries(Array.from({ length: 800 }, (_, i) => [`${i}.png`, png]))),
      "too much",
    ],
    ["one file that is too large", () => archive({}, { "bend.png": new Uint8Array(11_000_000) }), "too much"],
    [
      "an archive that grows",
      () =>
        archive(
          {},
          Object.fromEntries(Array.from({ length: 12 }, (_, i) => [`${i}.png`, new Uint8Array(9_000_000)])),
        ),
      "too much",
    ],
    [
      "names that lead out of a folder",
      () => archive({ pictures: [{ id: "bend", alt: "", file: "../bend.png" }] }, { "../bend.png": png }),
      "pictures[0].file",
    ],
  ])("%s is refused with what would be right, and nothing is brought in", async (_, made, words) => {
    const before = await drafts();
    await expect(bringQuiz(ines, SLUG, await made())).rejects.toThrow(words);
    expect(await drafts()).toBe(before);
  });

  test("only by who may write in the course", async () => {
    for (const other of [noor, tomas])
      await expect(bringQuiz(other, SLUG, archive())).rejects.toMatchObject({ status: 404 });
    const { id } = await bringQuiz(ines, SLUG, archive());
    for (const other of [noor, tomas])
      await expect(quizArchive(other, id)).rejects.toMatchObject({ status: 404 });
  });

  test("is cleaned like everything that an author writes", async () => {
    const harmful = archive({ brief: "<p onclick='x()'>Read</p><script>alert(1)</script>" });
    const { id } = await bringQuiz(ines, SLUG, harmful);
    const written = assembled(await piecesOf(ines, id)).quiz as QuizFile;
    expect(written.brief).toBe("<p>Read</p>");
  });
});
