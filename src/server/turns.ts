import type { ServerResponse } from "node:http";
import pLimit from "p-limit";
import { SECOND } from "@/core/time/instants";

/**
 * How many requests for pages and the like are worked on at once. More would not be done sooner on the processors there
 * are, and a save, which has a way of its own, would wait behind a piece of every one of them.
 */
const AT_ONCE = 4;
/** A request that sends or takes its body slowly gives its place away after so long, and goes on beside the others. */
const LONGEST_TURN = 2 * SECOND;

const turns = pLimit(AT_ONCE);

/** Lets a request be answered when it is its turn; one whose asker has gone meanwhile is not begun. */
export function inTurn(response: ServerResponse, answer: () => void): void {
  void turns(
    () =>
      new Promise<void>((done) => {
        if (response.destroyed) return done();
        const tooLong = setTimeout(done, LONGEST_TURN);
        response.once("close", () => {
          clearTimeout(tooLong);
          done();
        });
        answer();
      }),
  );
}
