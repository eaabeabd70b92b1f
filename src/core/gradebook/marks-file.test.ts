import papaparse from "papaparse";
import { describe, expect, test } from "vitest";
import { exact, stored } from "../numbers/exact";
import { chance } from "../numbers/seeded";
import { FORMULA } from "../text/table-cells";
import { type FileFacts, type FileLine, readMarks } from "./marks-file";
import { typedMark } from "./typed-mark";

const students = [
  { id: "1", name: "Noor Haldane", email: "noor@alderquay.example" },
  { id: "2", name: "Kaja Ilves", email: "kaja@alderquay.example" },
  { id: "3", name: "Kaja Ilves", email: "kaja.ilves@alderquay.example" },
];
const items = [
  { id: "a", title: "Compass", maximum: exact(20) },
  { id: "b", title: "Passage plan", maximum: exact(50) },
];
const facts: FileFacts = {
  students,
  items,
  standing: (student, item) =>
    student === "1" && item === "a"
      ? { text: "18.5", mark: exact("18.5") }
      : student === "1"
        ? { text: "33 + ?", mark: null }
        : { text: "", mark: null },
  columns: { email: ["E-mail"], name: ["Student"], ignored: ["At least, %"] },
  excused: ["excused"],
};
const lines = (...rows: string[][]): FileLine[] => rows.map((cells, i) => ({ line: i + 1, cells }));
const codes = (...rows: string[][]) =>
  readMarks(lines(...rows), facts).mistakes.map(({ line, problem }) => [
    line,
    typeof problem === "string" ? problem : problem.code.split(".").at(-1),
  ]);

describe("a table of marks", () => {
  test("sets what differs, and takes what stands there, what is empty and what is only read for no change", () => {
    const reading = readMarks(
      lines(
        ["Student", "E-mail", "Compass", "Passage plan", "At least, %"],
        ["Noor Haldane", "noor@alderquay.example", "18,50", "33 + ?", "12"],
        ["", "", "", "", ""],
        ["", "KAJA@alderquay.example ", " 12.25", "excused", ""],
        ["", "kaja.ilves@alderquay.example", "", "0", ""],
      ),
      facts,
    );
    expect(reading.mistakes).toEqual([]);
    expect(reading.changes).toEqual([
      { line: 4, studentId: "2", itemId: "a", from: "", marks: "12.25" },
      { line: 4, studentId: "2", itemId: "b", from: "", marks: null },
      { line: 5, studentId: "3", itemId: "b", from: "", marks: "0" },
    ]);
  });

  test("every line that is wrong is named, and then nothing is set", () => {
    const head = ["Student", "E-mail", "Compass"];
    const rows = [
      head,
      ["", "nobody@alderquay.example", "1"],
      ["Kaja Ilves", "", "2"],
      ["Nobody Here", "", "3"],
      ["", "", "4"],
      ["Noor Haldane", "", "20.5"],
      ["", "noor@alderquay.example", "4"],
      ["", "kaja@alderquay.example", "=2+3"],
      ["", "kaja.ilves@alderquay.example"],
    ];
    expect(codes(...rows)).toEqual([
      [2, "unknown-address"],
      [3, "two-of-that-name"],
      [4, "unknown-name"],
      [5, "nobody-named"],
      [6, "in-column"],
      [7, "student-twice"],
      [8, "in-column"],
      [9, "other-cells"],
    ]);
    expect(readMarks(lines(...rows), facts).changes).toEqual([]);
  });

  test.each([
    [
      ["Name of it", "Compass"],
      ["no-such-work", "no-students"],
    ],
    [["E-mail", "Compas"], ["no-such-work"]],
    [["E-mail", "Compass", "compass"], ["column-twice"]],
    [["E-mail", "E-mail", "Compass"], ["students-twice"]],
    [["E-mail"], ["no-work"]],
  ])("a head of %j is refused", (head, expected) => {
    expect(
      codes(
        head,
        head.map(() => "1"),
      ).map(([, code]) => code),
    ).toEqual(expected);
  });

  test("a file of a hundred thousand lines, or columns, is refused at once", () => {
    const from = performance.now();
    const many = Array.from({ length: 100_000 }, (_, i) => `x${i}`);
    const long = [["E-mail", "Compass"], ...many.map((name) => [name, "1"])].map((cells, i) => ({
      line: i + 1,
      cells,
    }));
    for (const rows of [long, lines(many, many)])
      expect(readMarks(rows, facts)).toMatchObject({
        changes: [],
        mistakes: [{ line: 1, problem: { code: "gradebook.marks-file.too-large" } }],
      });
    expect(performance.now() - from).toBeLessThan(5_000);
  });

  test("an empty file, and one with a head alone, are refused", () => {
    expect(codes().map(([, code]) => code)).toEqual(["empty"]);
    expect(codes(["E-mail", "Compass"]).map(([, code]) => code)).toEqual(["no-lines"]);
  });

  test("what a program for tables would run is made harmless going out, and read back without a change", () => {
    const next = chance("formulas");
    const signs = ["=", "+", "-", "@", "\t", "\r", "'", '"', ",", ";", "\n", " ", "é", "点", "a", "9"];
    for (let round = 0; round < 300; round += 1) {
      const word = () =>
        `x${Array.from({ length: 6 }, () => signs[Math.floor(next() * signs.length)]).join("")}y`.slice(
          next() < 0.7 ? 1 : 0,
        );
      const own = Array.from({ length: 3 }, (_, i) => ({
        id: `${i}`,
        title: `${word()}${i}`,
        maximum: exact(100),
      }));
      const people = students.map((each, i) => ({ ...each, name: `${word()}${i}` }));
      const marks = new Map<string, string>();
      const there: FileFacts["standing"] = (student, item) => {
        const text = marks.get(`${student} ${item}`) ?? "";
        return { text, mark: text === "" || text.includes("?") ? null : exact(text) };
      };
      for (const { id } of people)
        for (const item of own)
          if (next() < 0.7)
            marks.set(`${id} ${item.id}`, next() < 0.2 ? "4 + ?" : `${Math.floor(next() * 1_000) / 10}`);
      const out = papaparse.unparse(
        {
          fields: ["Student", "E-mail", ...own.map(({ title }) => title)],
          data: people.map(({ id, name, email }) => [
            name,
            email,
            ...own.map((item) => there(id, item.id).text),
          ]),
        },
        { escapeFormulae: FORMULA },
      );
      const { data } = papaparse.parse<string[]>(out);
      for (const cell of data.flat()) expect(cell).not.toMatch(/^[=+\-@\t\r\n]/);
      const reading = readMarks(lines(...data), { ...facts, students: people, items: own, standing: there });
      expect(reading).toEqual({ changes: [], mistakes: [] });
    }
  });
});

test.each([
  ["18.5", "18.5"],
  [" 18,5 ", "18.5"],
  ["0", "0"],
  ["20", "20"],
  ["20.0000", "20.0000"],
  ["007", "007"],
  ["20.0001", null],
  ["1e1", null],
  ["１８", null],
  ["-0", null],
  ["+3", null],
  ["18.", null],
  [".5", null],
  ["1 000", null],
  ["1,234,5", null],
])("%j as a mark out of 20 is %j", (text, expected) => {
  const reading = typedMark(text, exact(20));
  expect(reading.ok ? stored(exact(reading.marks)) : null).toBe(
    expected === null ? null : stored(exact(expected)),
  );
});
