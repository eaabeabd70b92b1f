import { createHash } from "node:crypto";
import papaparse from "papaparse";
import * as yup from "yup";
import { type FileChange, type FileLine, readMarks } from "@/core/gradebook/marks-file";
import type { MarksFilePreview } from "@/core/gradebook/marks-file-preview";
import { exact, shown } from "@/core/numbers/exact";
import { said } from "@/core/said";
import { storable } from "@/core/text/storable";
import { inTransaction } from "@/data/database";
import { LANGUAGES, speakerOf } from "@/words/languages";
import { say, t } from "@/words/t";
import type { CourseOfPerson } from "../access/open-course";
import type { Viewer } from "../access/viewer";
import { inputOf } from "../base/input";
import { badInput, Problem } from "../base/problems";
import { type CourseWork, courseWork } from "./course-work";
import { cellText, titlesIn } from "./marks-file";
import { openGradebook } from "./open-gradebook";
import { holdItems, writeAdjustments } from "./set-marks";

/** More mistakes than anybody puts right from a list. */
const MOST_MISTAKES = 200;

const form = yup.object({
  reason: yup
    .string()
    .trim()
    .min(1, said("server.course-gradebook.set-marks.say-why"))
    .max(500)
    .required(said("server.course-gradebook.set-marks.say-why")),
  expects: yup.string().max(100).required(said("server.course-gradebook.marks-file-in.look-first")),
});

/** The text of a file, whatever it was written in: by its byte order mark, else UTF-8, else as older programs for tables write it. */
export function textOf(bytes: Uint8Array): { readonly text: string; readonly isOld: boolean } {
  const decode = (encoding: string, fatal = false) => new TextDecoder(encoding, { fatal }).decode(bytes);
  const [first, second] = bytes;
  if (first === 0xff && second === 0xfe) return { text: decode("utf-16le"), isOld: false };
  if (first === 0xfe && second === 0xff) return { text: decode("utf-16be"), isOld: false };
  try {
    return { text: decode("utf-8", true), isOld: false };
  } catch {
    return { text: decode("windows-1252"), isOld: true };
  }
}

const BETWEEN = [",", ";", "\t", "|"];

/** What stands between the cells: of those that can, the one that the first line has most of, outside of quotation marks. */
function delimiterOf(text: string): string {
  const head = (/^(?:[^"\r\n]|"[^"]*")*/.exec(text.trimStart())?.[0] ?? "").replace(/"[^"]*"/g, "");
  const times = (delimiter: string) => head.split(delimiter).length;
  return BETWEEN.reduce((best, each) => (times(each) > times(best) ? each : best));
}

/** The lines of a table, whatever stands between its cells. @throws Problem when it is none */
export function linesOf(text: string): FileLine[] {
  const plain = storable(text.replace(/^\uFEFF/, ""));
  const { data, errors } = papaparse.parse<string[]>(plain, { delimiter: delimiterOf(plain) });
  const quotes = errors.find(({ type }) => type === "Quotes");
  let line = 1;
  const lines = data.map((cells): FileLine => {
    const from = line;
    line += 1 + cells.reduce((sum, cell) => sum + cell.split(/\r\n|\r|\n/).length - 1, 0);
    return { line: from, cells };
  });
  if (quotes)
    throw badInput(
      t("server.course-gradebook.marks-file-in.a-quote-is-open", {
        line: lines[quotes.row ?? 0]?.line ?? 1,
      }),
    );
  return lines;
}

/** In every language, so that a file taken out in one is read in another. */
const inAllLanguages = (key: Parameters<typeof t>[0]): string[] =>
  LANGUAGES.map((language) => speakerOf(language).say(key));

/** What would change, before anything does. */
function readingOf(course: CourseOfPerson, work: CourseWork, bytes: Uint8Array) {
  const { text, isOld } = textOf(bytes);
  const titles = titlesIn(work);
  const items = work.categories.flatMap((category) => category.items);
  const cells = new Map(work.students.map((student) => [student.id, student.cells]));
  const reading = readMarks(linesOf(text), {
    students: work.students,
    items: items.map(({ id, maximum }) => ({ id, title: titles.get(id) ?? "", maximum: exact(maximum) })),
    standing: (studentId, itemId) => {
      const cell = cells.get(studentId)?.get(itemId);
      return cell ? cellText(cell) : { text: "", mark: null };
    },
    columns: {
      email: [
        ...inAllLanguages("server.course-gradebook.marks-file.column-email"),
        "email",
        "mail",
        "address",
      ],
      name: [...inAllLanguages("server.course-gradebook.marks-file.column-student"), "name"],
      ignored: (["so-far", "low", "high"] as const).flatMap((column) =>
        inAllLanguages(`server.course-gradebook.marks-file.column-${column}`),
      ),
    },
    excused: inAllLanguages("server.course-gradebook.marks-file.excused"),
  });
  return { reading, isOld, expects: digestOf(course.id, reading.changes) };
}

/** What was looked at, so that nothing else is done. */
const digestOf = (courseId: string, changes: readonly FileChange[]): string =>
  createHash("sha256")
    .update(
      JSON.stringify([
        courseId,
        changes.map(({ studentId, itemId, from, marks }) => [studentId, itemId, from, marks]),
      ]),
    )
    .digest("base64url");

/** Looks a table of marks over: what it would change, or everything that is wrong with it. Changes nothing. */
export async function lookOverMarks(
  viewer: Viewer,
  slug: string,
  bytes: Uint8Array,
): Promise<MarksFilePreview> {
  const course = await openGradebook(viewer, slug);
  const work = await courseWork(course.id);
  const { reading, isOld, expects } = readingOf(course, work, bytes);
  const names = new Map(work.students.map(({ id, name }) => [id, name]));
  const items = new Map(
    work.categories.flatMap((category) => category.items.map((item) => [item.id, item] as const)),
  );
  return {
    changes: reading.changes.map(({ line, studentId, itemId, from, marks }) => ({
      line,
      name: names.get(studentId) ?? "",
      title: items.get(itemId)?.title ?? "",
      from,
      to: marks === null ? t("server.course-gradebook.marks-file.excused") : shown(marks),
      maximum: shown(items.get(itemId)?.maximum ?? "0"),
    })),
    mistakes: reading.mistakes
      .slice(0, MOST_MISTAKES)
      .map(({ line, problem }) => ({ line, words: say(problem) })),
    moreMistakes: Math.max(0, reading.mistakes.length - MOST_MISTAKES),
    isOld,
    expects,
  };
}

/**
 * Sets the marks of a table, all of them or none, as they were looked at. Returns how many were set.
 * @throws Problem where the table is wrong somewhere, or something of it has changed since it was looked at
 */
export async function bringMarksIn(
  viewer: Viewer,
  slug: string,
  bytes: Uint8Array,
  input: unknown,
): Promise<{ readonly set: number }> {
  const { reason, expects } = inputOf(form, input, "address");
  const course = await openGradebook(viewer, slug);
  return inTransaction(async (tx) => {
    const before = await courseWork(course.id);
    const all = before.categories.flatMap((category) => category.items.map(({ id }) => id));
    const items = await holdItems(tx, course.id, all);
    // Read again now that nobody else sets a mark: what was set a moment ago is in it.
    const work = await courseWork(course.id);
    const { reading, expects: now } = readingOf(course, work, bytes);
    if (reading.mistakes.length > 0)
      throw badInput(
        t("server.course-gradebook.marks-file-in.has-mistakes", { count: reading.mistakes.length }),
      );
    if (now !== expects)
      throw new Problem(
        409,
        "changed-meanwhile",
        t("server.course-gradebook.marks-file-in.changed-meanwhile"),
      );
    if (reading.changes.length === 0)
      throw badInput(t("server.course-gradebook.marks-file-in.changes-nothing"));
    await writeAdjustments(
      tx,
      { viewer, course, reason },
      reading.changes.map(({ studentId, itemId, marks }) => ({
        itemId,
        personId: studentId,
        marks,
        excused: marks === null,
        withdrawn: false,
      })),
      items,
    );
    return { set: reading.changes.length };
  });
}
