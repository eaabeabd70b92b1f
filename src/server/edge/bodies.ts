import type { IncomingMessage } from "node:http";
import { SECOND } from "@/core/time/instants";
import { t } from "@/words/t";
import { Problem } from "../base/problems";

const KB = 1024;

/** How large the body of a request may be, in bytes, by what it is for; the first that fits holds. */
const MOST: readonly (readonly [RegExp, number])[] = [
  [/^\/(api\/)?sign-in(\/code)?$/, 8 * KB],
  [/^\/api\/attempts\/[^/]+\/save$/, 2_048 * KB],
  // What a marker writes to a paper.
  [/^\/api\/quizzes\/[^/]+\/papers\/\d+\/marking$/, 1_024 * KB],
  // A piece of a file.
  [/^\/api\/attempts\/[^/]+\/files\/[^/]+$/, 1_024 * KB],
  // A table of marks.
  [/^\/api\/courses\/[^/]+\/gradebook\/file$/, 2_048 * KB],
  // What an author writes in a draft, and a picture, a sound or a film that they bring.
  [/^\/api\/drafts\/[^/]+\/pieces$/, 2_048 * KB],
  [/^\/api\/drafts\/[^/]+\/assets$/, 10_240 * KB],
  // A quiz with its pictures.
  [/^\/api\/courses\/[^/]+\/quiz-file$/, 48_000 * KB],
  // An essay that is practised.
  [/^\/api\/practice\//, 1_024 * KB],
];
const OTHERWISE = 64 * KB;

export const largestBody = (path: string): number =>
  MOST.find(([pattern]) => pattern.test(path))?.[1] ?? OTHERWISE;

/** The time in which a body of that size must have come, in ms: a bad network has it, and nobody holds a place for hours. */
export const longestWait = (most: number): number => 15 * SECOND + (most / (8 * KB)) * SECOND;

const sizeInWords = (bytes: number) => (bytes < 1_024 * KB ? `${bytes / KB} kB` : `${bytes / KB / KB} MB`);

export const tooLarge = (most: number) =>
  new Problem(
    413,
    "too-large",
    t("server.edge.bodies.send-at-most-in-one-request", { sizeInWords: sizeInWords(most) }),
  );

/** Whether a request says itself that it brings a body. */
export const bringsBody = ({ headers }: IncomingMessage): boolean =>
  headers["transfer-encoding"] !== undefined || Number(headers["content-length"] ?? 0) > 0;

/** The pieces of a body, counted as they come. @throws Problem once they are more than is taken. */
export async function* counted(request: IncomingMessage, most: number): AsyncGenerator<Buffer> {
  let size = 0;
  // Left in the middle, the request stays open for its answer.
  for await (const piece of request.iterator({ destroyOnReturn: false })) {
    size += (piece as Buffer).length;
    if (size > most) throw tooLarge(most);
    yield piece as Buffer;
  }
}

/** The whole body as text. @throws Problem when it is larger than is taken. */
export async function bodyText(request: IncomingMessage, most: number): Promise<string> {
  const pieces: Buffer[] = [];
  for await (const piece of counted(request, most)) pieces.push(piece);
  return Buffer.concat(pieces).toString("utf8");
}
