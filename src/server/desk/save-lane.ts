import type { IncomingMessage, ServerResponse } from "node:http";
import { whileSaving } from "@/data/database";
import { tokenOf, viewerOf } from "../access/viewer";
import { oneByOne, spend, whose } from "../base/budgets";
import { config } from "../base/config";
import { isJson, notJson, parsedJson } from "../base/json";
import { refuseForeign } from "../base/origin";
import { notSignedIn } from "../base/problems";
import { countingQueries } from "../base/query-count";
import { answerProblem } from "../edge/answer-problem";
import { bodyText, largestBody } from "../edge/bodies";
import { limitBody } from "../edge/guard";
import { saveAnswers } from "./save-answers";

const SAVE = /^\/api\/attempts\/([^/]+)\/save$/;

/** A body of more bytes than this holds a long text, and counts as one. What is typed into boxes is far below. */
const LONG = 32 * 1024;

/**
 * The hot path's own way through the server, beside the framework, whose handling of a request costs more than the save
 * itself. Returns whether the request was a save; if so, it is being answered.
 */
export function saveLane(request: IncomingMessage, response: ServerResponse, path: string | null): boolean {
  if (request.method !== "POST") return false;
  const attemptId = path === null ? undefined : SAVE.exec(path)?.[1];
  if (path === null || attemptId === undefined) return false;
  void answer(request, response, path, attemptId);
  return true;
}

/** Somebody who is signed in is looked for before much is read. @throws Problem */
async function refuseLongFromStrangers(request: IncomingMessage, token: string): Promise<void> {
  const length = Number(request.headers["content-length"] ?? Number.POSITIVE_INFINITY);
  if (length > LONG && !(await viewerOf(token))) throw notSignedIn();
}

async function answer(
  request: IncomingMessage,
  response: ServerResponse,
  path: string,
  attemptId: string,
): Promise<void> {
  try {
    refuseForeign(request.headers.origin, request.headers.host);
    const token = tokenOf(request);
    if (token === null) throw notSignedIn();
    limitBody(request, response, path, token);
    await refuseLongFromStrangers(request, token);
    if (!isJson(request.headers["content-type"])) throw notJson();
    const text = await bodyText(request, largestBody(path));
    if (text.length > LONG) await spend("essays", whose(token), text.length);
    const { result, queries } = await oneByOne(whose(token), () =>
      countingQueries(() => whileSaving(() => saveAnswers(token, attemptId, parsedJson(text)))),
    );
    if (response.destroyed) return;
    response.writeHead(200, {
      "content-type": "application/json",
      "cache-control": "private, no-store",
      "x-content-type-options": "nosniff",
      ...(config.tellsQueries ? { "server-timing": `db;desc="${queries} queries"` } : {}),
    });
    response.end(JSON.stringify(result));
  } catch (error) {
    answerProblem(request, response, error, path);
  }
}
