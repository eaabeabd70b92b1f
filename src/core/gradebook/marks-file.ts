import type { Exact } from "../numbers/exact";
import { exact, stored } from "../numbers/exact";
import { type Said, said } from "../said";
import { withoutGuard } from "../text/table-cells";
import { typedMark } from "./typed-mark";

/** A line of a table of marks, as it was read. */
export interface FileLine {
  /** Where it begins in the file, from 1. */
  readonly line: number;
  readonly cells: readonly string[];
}

/** What a table of marks is held against. */
export interface FileFacts {
  readonly students: readonly { readonly id: string; readonly name: string; readonly email: string }[];
  readonly items: readonly { readonly id: string; readonly title: string; readonly maximum: Exact }[];
  /** What stands there now: as the file that is taken out says it, and its mark, if it is a whole one. */
  readonly standing: (
    studentId: string,
    itemId: string,
  ) => { readonly text: string; readonly mark: Exact | null };
  /** What the columns are called that name a student by address and by name, and those that are only read by people. */
  readonly columns: {
    readonly email: readonly string[];
    readonly name: readonly string[];
    readonly ignored: readonly string[];
  };
  /** What says that somebody is excused. */
  readonly excused: readonly string[];
}

/** A mark that would be set. */
export interface FileChange {
  readonly line: number;
  readonly studentId: string;
  readonly itemId: string;
  /** What stands there now, in words. */
  readonly from: string;
  /** Exact, as text; null: excused. */
  readonly marks: string | null;
}

/** What is wrong with a line, in words. */
export interface FileMistake {
  readonly line: number;
  readonly problem: Said;
}

export interface FileReading {
  readonly changes: readonly FileChange[];
  readonly mistakes: readonly FileMistake[];
}

const plain = (cell: string): string => withoutGuard(cell).trim();
const folded = (text: string): string => plain(text).normalize("NFKC").toLowerCase().replace(/\s+/g, " ");

/** More lines, and more columns, than the table of any course has. */
const MOST_LINES = 5_000;
const MOST_COLUMNS = 400;

/** What is found by its name, read once: of several with one name all of them. */
function byName<T>(list: readonly T[], nameOf: (each: T) => string): ReadonlyMap<string, readonly T[]> {
  const found = new Map<string, T[]>();
  for (const each of list) {
    const name = folded(nameOf(each));
    found.set(name, [...(found.get(name) ?? []), each]);
  }
  return found;
}

/** Where each thing stands in a line; or every reason why the head cannot be read. */
function columnsIn(head: FileLine, facts: FileFacts) {
  const mistakes: FileMistake[] = [];
  const wrong = (problem: Said) => mistakes.push({ line: head.line, problem });
  const among = (names: readonly string[], cell: string) =>
    names.some((name) => folded(name) === folded(cell));
  const works = byName(facts.items, ({ title }) => title);
  const items = new Map<number, FileFacts["items"][number]>();
  const places = { email: [] as number[], name: [] as number[] };
  for (const [i, cell] of head.cells.entries()) {
    if (plain(cell) === "") continue;
    if (among(facts.columns.email, cell)) places.email.push(i);
    else if (among(facts.columns.name, cell)) places.name.push(i);
    else {
      const found = works.get(folded(cell)) ?? [];
      const [item] = found;
      if (!item && among(facts.columns.ignored, cell)) continue;
      if (!item) wrong(said("gradebook.marks-file.no-such-work", { column: plain(cell) }));
      else if (found.length > 1) wrong(said("gradebook.marks-file.two-works", { column: plain(cell) }));
      else if ([...items.values()].includes(item))
        wrong(said("gradebook.marks-file.column-twice", { column: plain(cell) }));
      else items.set(i, item);
    }
  }
  if (places.email.length + places.name.length === 0) wrong(said("gradebook.marks-file.no-students"));
  if (places.email.length > 1 || places.name.length > 1) wrong(said("gradebook.marks-file.students-twice"));
  if (items.size === 0 && mistakes.length === 0) wrong(said("gradebook.marks-file.no-work"));
  return { items, email: places.email[0], name: places.name[0], mistakes };
}

interface StudentsByName {
  readonly emails: ReadonlyMap<string, FileFacts["students"]>;
  readonly names: ReadonlyMap<string, FileFacts["students"]>;
}

function studentIn(
  cells: readonly string[],
  { email, name }: { readonly email: number | undefined; readonly name: number | undefined },
  { emails, names }: StudentsByName,
): { readonly student: FileFacts["students"][number] } | { readonly problem: Said } {
  const address = email === undefined ? "" : plain(cells[email] ?? "");
  const called = name === undefined ? "" : plain(cells[name] ?? "");
  if (address !== "") {
    const student = emails.get(folded(address))?.[0];
    return student ? { student } : { problem: said("gradebook.marks-file.unknown-address", { address }) };
  }
  if (called === "") return { problem: said("gradebook.marks-file.nobody-named") };
  const found = names.get(folded(called)) ?? [];
  if (found.length > 1) return { problem: said("gradebook.marks-file.two-of-that-name", { name: called }) };
  return found[0]
    ? { student: found[0] }
    : { problem: said("gradebook.marks-file.unknown-name", { name: called }) };
}

/**
 * A table of marks, read whole: what it would change, or everything that is wrong with it. An empty cell says nothing, and
 * what stands there already is no change.
 */
export function readMarks(lines: readonly FileLine[], facts: FileFacts): FileReading {
  const [head, ...rest] = lines.filter(({ cells }) => cells.some((cell) => plain(cell) !== ""));
  if (!head) return { changes: [], mistakes: [{ line: 1, problem: said("gradebook.marks-file.empty") }] };
  if (rest.length > MOST_LINES || head.cells.length > MOST_COLUMNS) {
    const problem = said("gradebook.marks-file.too-large", { lines: MOST_LINES, columns: MOST_COLUMNS });
    return { changes: [], mistakes: [{ line: head.line, problem }] };
  }
  const { items, mistakes, ...places } = columnsIn(head, facts);
  if (mistakes.length > 0) return { changes: [], mistakes };
  const students: StudentsByName = {
    emails: byName(facts.students, ({ email }) => email),
    names: byName(facts.students, ({ name }) => name),
  };
  const changes: FileChange[] = [];
  const lineOf = new Map<string, number>();
  for (const { line, cells } of rest) {
    const wrong = (problem: Said) => mistakes.push({ line, problem });
    if (cells.length !== head.cells.length) {
      wrong(said("gradebook.marks-file.other-cells", { cells: cells.length, columns: head.cells.length }));
      continue;
    }
    const found = studentIn(cells, places, students);
    if ("problem" in found) {
      wrong(found.problem);
      continue;
    }
    const { id, name } = found.student;
    const before = lineOf.get(id);
    if (before !== undefined) wrong(said("gradebook.marks-file.student-twice", { name, line: before }));
    lineOf.set(id, line);
    for (const [i, item] of items) {
      const cell = plain(cells[i] ?? "");
      const now = facts.standing(id, item.id);
      if (cell === "" || cell === now.text) continue;
      if (facts.excused.some((word) => folded(word) === folded(cell))) {
        changes.push({ line, studentId: id, itemId: item.id, from: now.text, marks: null });
        continue;
      }
      const reading = typedMark(cell, item.maximum);
      if (!reading.ok)
        wrong(said("gradebook.marks-file.in-column", { title: item.title, problem: reading.problem }));
      else if (now.mark === null || stored(now.mark) !== stored(exact(reading.marks)))
        changes.push({ line, studentId: id, itemId: item.id, from: now.text, marks: reading.marks });
    }
  }
  if (rest.length === 0) mistakes.push({ line: head.line, problem: said("gradebook.marks-file.no-lines") });
  return mistakes.length > 0 ? { changes: [], mistakes } : { changes, mistakes };
}
