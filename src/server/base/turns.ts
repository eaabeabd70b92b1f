import type { IncomingMessage, ServerResponse } from "node:http";
import pLimit from "p-limit";
import { SECOND } from "@/core/time/instants";

/**
 * How many requests for pages and the like are worked on at once. More would not be done sooner on the processors there
 * are, and a save, which has a way of its own, would wait behind a piece of every one of them.
 * Several processes on one machine share them: see src/serve/serve.ts.
 */
const AT_ONCE = Number(process.env.TURNS ?? 4);
/** A body up to this size, in bytes, is waited for before a turn is taken; a larger one, such as a file, takes none. */
const SMALL = 16 * 1024;
/** Whoever takes the answer in slowly gives the place away after so long; it goes on beside the others. */
const LONGEST_TURN = 2 * SECOND;

const turns = pLimit(AT_ONCE);

/** Waits until the whole body is here, without reading it; returns whether the request takes a turn at all. */
async function isHere(request: IncomingMessage): Promise<boolean> {
  if (request.headers["transfer-encoding"] !== undefined) return false;
  const length = Number(request.headers["content-length"] ?? 0);
  if (length > SMALL) return false;
  if (length === 0) return true;
  await new Promise<void>((done) => {
    const look = () => {
      if (request.readableLength < length && !request.destroyed) return;
      request.off("readable", look);
      request.off("close", look);
      done();
    };
    request.on("readable", look);
    request.on("close", look);
    look();
  });
  return true;
}

/**
 * Lets a request be answered when it is its turn. One whose asker has gone meanwhile is not begun, and one that sends its
 * body slowly holds nobody up: it waits for itself.
 */
export async function inTurn(
  request: IncomingMessage,
  response: ServerResponse,
  answer: () => void,
): Promise<void> {
  if (!(await isHere(request))) return answer();
  await turns(
    () =>
      new Promise<void>((done) => {
        if (response.destroyed) return done();
        const tooLong = setTimeout(done, LONGEST_TURN);
        const end = () => {
          clearTimeout(tooLong);
          done();
        };
        response.once("finish", end);
        response.once("close", end);
        answer();
      }),
  );
}
