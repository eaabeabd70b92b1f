import type { QuizFile } from "@/core/quiz/quiz-file";

const FILES = import.meta.glob<QuizFile>("./quizzes/*.json", { eager: true, import: "default" });
const DRAWINGS = import.meta.glob<string>("./quizzes/*.svg", {
  eager: true,
  query: "?raw",
  import: "default",
});
const RECORDINGS = import.meta.glob<string>("./quizzes/*.{wav,webm}", {
  eager: true,
  query: "?inline",
  import: "default",
});

const base64 = (text: string): string => Buffer.from(text, "utf8").toString("base64");

function dataOf(file: string): string {
  const path = `./quizzes/${file}`;
  const [drawing, recording] = [DRAWINGS[path], RECORDINGS[path]];
  if (drawing !== undefined) return `data:image/svg+xml;base64,${base64(drawing)}`;
  if (recording !== undefined) return recording;
  throw new Error(`The demo has no file ${file}.`);
}

/** What stands beside a quiz file, put into it. */
const embedded = <M extends { readonly file?: string | undefined; readonly data?: string | undefined }>({
  file,
  ...medium
}: M) => ({ ...medium, ...(file === undefined ? {} : { data: dataOf(file) }) });

/** A quiz of the demo by the name of its file, with its drawings and recordings in it. Checked when it is written. */
export function quizFile(name: string): QuizFile {
  const file = FILES[`./quizzes/${name}.json`];
  if (!file) throw new Error(`The demo has no quiz file ${name}.`);
  const { pictures, recordings } = file;
  return {
    ...file,
    ...(pictures ? { pictures: pictures.map(embedded) } : {}),
    ...(recordings ? { recordings: recordings.map(embedded) } : {}),
  } as QuizFile;
}
