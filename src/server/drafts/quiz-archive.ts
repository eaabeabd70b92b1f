import { type AsyncUnzipOptions, strFromU8, type Unzipped, unzip } from "fflate";
import { t } from "@/words/t";
import { badInput } from "../base/problems";

/** In bytes: everything in it together, and one file. What says that it is more is not unpacked. */
const MOST_UNPACKED = 96_000_000;
const LARGEST_FILE = 10_000_000;
const MOST_FILES = 700;

/** The file in an archive that holds the quiz; everything that it shows and plays stands beside it. */
export const QUIZ_NAME = "quiz.json";

/** What a quiz file can name: plain names, so that nothing leads out of a folder. */
const PLAIN = /^[\w][\w .-]{0,199}$/;

/** A quiz as it was brought: its file, and what stands beside it by name. */
export interface BroughtQuiz {
  readonly file: unknown;
  readonly beside: ReadonlyMap<string, Buffer>;
}

const json = (text: string): unknown => {
  try {
    return JSON.parse(text);
  } catch {
    throw badInput(t("server.drafts.quiz-archive.is-no-quiz-file"));
  }
};

/** A folder that everything in an archive stands in, as when it was packed by hand. */
function folderOf(names: readonly string[]): string {
  const quiz = names.find((name) => name === QUIZ_NAME || name.endsWith(`/${QUIZ_NAME}`)) ?? QUIZ_NAME;
  return quiz.slice(0, quiz.length - QUIZ_NAME.length);
}

/**
 * Reads a quiz that was brought as a file, or as an archive with its pictures. Sizes and names are looked at before
 * anything is unpacked.
 * @throws Problem with what would be right
 */
export async function broughtQuiz(bytes: Buffer): Promise<BroughtQuiz> {
  const isArchive = bytes.length > 3 && bytes[0] === 0x50 && bytes[1] === 0x4b;
  if (!isArchive) {
    if (bytes.length > LARGEST_FILE * 2) throw badInput(t("server.drafts.quiz-archive.is-too-large"));
    return { file: json(bytes.toString("utf8").replace(/^\uFEFF/, "")), beside: new Map() };
  }
  const found = await unpacked(bytes);
  const folder = folderOf(Object.keys(found));
  const quiz = found[`${folder}${QUIZ_NAME}`];
  if (!quiz) throw badInput(t("server.drafts.quiz-archive.holds-no-quiz", { name: QUIZ_NAME }));
  const beside = new Map<string, Buffer>();
  for (const [name, content] of Object.entries(found)) {
    const plain = name.slice(folder.length);
    if (name.startsWith(folder) && plain !== QUIZ_NAME && PLAIN.test(plain))
      beside.set(plain, Buffer.from(content.buffer, content.byteOffset, content.byteLength));
  }
  return { file: json(strFromU8(quiz).replace(/^\uFEFF/, "")), beside };
}

/** Unpacked beside everything else that the server does. */
async function unpacked(bytes: Buffer): Promise<Unzipped> {
  let [count, size] = [0, 0];
  let isTooMuch = false;
  const options: AsyncUnzipOptions = {
    filter: ({ name, originalSize, size: packed }) => {
      if (name.endsWith("/") || isTooMuch) return false;
      count += 1;
      size += Math.max(originalSize, packed);
      isTooMuch = count > MOST_FILES || originalSize > LARGEST_FILE || size > MOST_UNPACKED;
      return !isTooMuch;
    },
  };
  const found = await new Promise<Unzipped>((resolve, reject) => {
    unzip(bytes, options, (error, all) => (error ? reject(error) : resolve(all)));
  }).catch(() => {
    throw badInput(t("server.drafts.quiz-archive.cannot-be-unpacked"));
  });
  if (isTooMuch) throw badInput(t("server.drafts.quiz-archive.is-too-large"));
  // What holds more than it says was cut, or grew: it is not what was packed.
  if (Object.values(found).reduce((sum, { length }) => sum + length, 0) > MOST_UNPACKED)
    throw badInput(t("server.drafts.quiz-archive.is-too-large"));
  return found;
}
