import type { IncomingMessage, ServerResponse } from "node:http";
import { log } from "../base/log";
import { problemBody, problemOf } from "../base/problems";
import { isApi } from "../base/public-paths";
import { newReference } from "../base/reference";

/** Answers a request, beside the framework, with what went wrong; a fault of ours is put in the log. */
export function answerProblem(
  request: IncomingMessage,
  response: ServerResponse,
  error: unknown,
  path: string,
): void {
  const problem = problemOf(error);
  const reference = newReference();
  // A client that has gone in the middle of a request is not a fault of ours, and gets no answer.
  if (request.destroyed && !request.complete) return;
  if (problem.status >= 500) log.error({ err: error, reference, path }, "request failed");
  if (response.headersSent || response.destroyed) {
    response.destroy();
    return;
  }
  const { retryAfter } = problem.more;
  const forProgram = isApi(path);
  // The form of a page that was left open too long.
  const toSignIn = problem.status === 401 && !forProgram;
  response.writeHead(toSignIn ? 303 : problem.status, {
    "content-type": forProgram ? "application/problem+json" : "text/plain; charset=utf-8",
    ...(toSignIn ? { location: "/sign-in" } : {}),
    "cache-control": "private, no-store",
    "x-content-type-options": "nosniff",
    ...(typeof retryAfter === "number" ? { "retry-after": String(retryAfter) } : {}),
    // A body that was not read to its end would stand before the next request on this connection.
    ...(request.complete ? {} : { connection: "close" }),
  });
  response.end(forProgram ? JSON.stringify(problemBody(problem, reference)) : problem.sentence);
}
