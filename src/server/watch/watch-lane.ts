import type { IncomingMessage, ServerResponse } from "node:http";
import { openQuiz } from "../access/open-quiz";
import { mustMay } from "../access/tie";
import { tokenOf, type Viewer, viewerOf } from "../access/viewer";
import { spend } from "../base/budgets";
import { log } from "../base/log";
import { notSignedIn, Problem } from "../base/problems";
import { answerProblem } from "../edge/answer-problem";
import { watchQuiz } from "./quiz-watch";

const WATCH = /^\/api\/quizzes\/([^/]+)\/watch$/;
/** More than anybody watches at once; the oldest gives way. */
const MOST_OF_PERSON = 6;
/** So often it is asked whether whoever watches still may, in ms; and something is sent, so that proxies hold the line. */
const STILL_MAY = 15_000;

/** The open streams with whose they are, the oldest first. */
const open = new Map<ServerResponse, string>();

/** Ends all streams, so that the server can stop; the pages come back by themselves. */
export function endWatchStreams(): void {
  for (const response of open.keys()) response.end();
}

/** Server-sent events of those who watch a quiz, beside the framework. Returns whether the request was for one. */
export function watchLane(request: IncomingMessage, response: ServerResponse, path: string | null): boolean {
  if (request.method !== "GET") return false;
  const quizId = path === null ? undefined : WATCH.exec(path)?.[1];
  if (path === null || quizId === undefined) return false;
  void stream(request, response, path, quizId);
  return true;
}

/** @throws Problem when it is not for this person, or not any more */
async function mayWatch(token: string | null, quizId: string): Promise<{ viewer: Viewer; quizId: string }> {
  const viewer = await viewerOf(token);
  if (!viewer) throw notSignedIn();
  const opened = await openQuiz(viewer, quizId);
  mustMay(opened, "watch");
  return { viewer, quizId: opened.quiz.id };
}

async function stream(
  request: IncomingMessage,
  response: ServerResponse,
  path: string,
  asked: string,
): Promise<void> {
  const token = tokenOf(request);
  let quizId: string;
  try {
    const found = await mayWatch(token, asked);
    await spend("reading", found.viewer.id);
    quizId = found.quizId;
    const theirs = [...open].filter(([, personId]) => personId === found.viewer.id);
    if (theirs.length >= MOST_OF_PERSON) theirs[0]?.[0].end("retry: 60000\n\n");
    open.set(response, found.viewer.id);
  } catch (error) {
    answerProblem(request, response, error, path);
    return;
  }
  response.writeHead(200, {
    "content-type": "text/event-stream",
    "cache-control": "private, no-store",
    "x-content-type-options": "nosniff",
    "x-accel-buffering": "no",
  });
  const say = (text: string) => {
    if (!response.writableEnded) response.write(text);
  };
  // Scattered, so that not all come back in the same moment after a restart.
  say(`retry: ${Math.round(1_000 + Math.random() * 1_500)}\n\n`);
  const stop = watchQuiz(quizId, (news) => say(`data: ${JSON.stringify(news)}\n\n`));
  const beat = setInterval(() => void still(), STILL_MAY);
  const still = async () => {
    try {
      await mayWatch(token, quizId);
      say(": here\n\n");
    } catch (error) {
      if (error instanceof Problem) response.end();
      else log.warn({ err: error }, "it could not be asked whether somebody may still watch");
    }
  };
  const end = () => {
    open.delete(response);
    clearInterval(beat);
    stop();
  };
  if (response.destroyed) end();
  else response.on("close", end);
}
