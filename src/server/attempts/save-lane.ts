import { randomBytes } from "node:crypto";
import type { IncomingMessage, ServerResponse } from "node:http";
import { whileSaving } from "@/data/database";
import { cookieIn } from "../cookies";
import { LARGEST_BODY, parsedJson, tooLarge } from "../json";
import { log } from "../log";
import { refuseForeign } from "../origin";
import { problemBody, problemOf } from "../problems";
import { countingQueries } from "../query-count";
import { SESSION_COOKIE, sessionToken } from "../viewer";
import { saveAnswers } from "./save-answers";

const SAVE = /^\/api\/attempts\/([^/?]+)\/save$/;

/** The body as text. @throws Problem when it is larger than an endpoint reads. */
async function bodyOf(request: IncomingMessage): Promise<string> {
  const pieces: Buffer[] = [];
  let size = 0;
  for await (const piece of request) {
    size += piece.length;
    if (size > LARGEST_BODY) throw tooLarge();
    pieces.push(piece);
  }
  return Buffer.concat(pieces).toString("utf8");
}

/**
 * The hot path's own way through the server, beside the framework, whose handling of a request costs more than the save
 * itself. Answers whether the request was a save; if so, it is being answered.
 */
export function saveLane(request: IncomingMessage, response: ServerResponse): boolean {
  const attemptId = request.method === "POST" ? SAVE.exec(request.url ?? "")?.[1] : undefined;
  if (attemptId === undefined) return false;
  void answer(request, response, attemptId);
  return true;
}

async function answer(request: IncomingMessage, response: ServerResponse, attemptId: string): Promise<void> {
  const send = (status: number, type: string, value: unknown, queries: number) => {
    if (response.destroyed) return;
    response.writeHead(status, {
      "content-type": type,
      "cache-control": "private, no-store",
      "x-content-type-options": "nosniff",
      "server-timing": `db;desc="${queries} queries"`,
    });
    response.end(JSON.stringify(value));
  };
  try {
    refuseForeign(request.headers.origin, request.headers.host);
    const token = sessionToken(cookieIn(request.headers.cookie, SESSION_COOKIE));
    const input = parsedJson(await bodyOf(request));
    const { result, queries } = await countingQueries(() =>
      whileSaving(() => saveAnswers(token, attemptId, input)),
    );
    send(200, "application/json", result, queries);
  } catch (error) {
    const problem = problemOf(error);
    const reference = randomBytes(5).toString("hex");
    if (problem.status >= 500) log.error({ err: error, reference, path: "save" }, "request failed");
    // A body that was not read to its end would stand before the next request on this connection.
    if (!request.complete) response.setHeader("connection", "close");
    send(problem.status, "application/problem+json", problemBody(problem, reference), 0);
  }
}
