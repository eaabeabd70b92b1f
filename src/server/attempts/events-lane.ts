import { randomUUID } from "node:crypto";
import type { IncomingMessage, ServerResponse } from "node:http";
import { cookieIn } from "../cookies";
import { onDesksTold } from "../events";
import { log } from "../log";
import { notSignedIn, problemBody, problemOf } from "../problems";
import { SESSION_COOKIE, sessionToken, type Viewer, viewerOf } from "../viewer";
import { openAttempt } from "./access";
import { attemptPulse } from "./desk";
import { deskClosed, deskOpened, deskSeen, forgetDesks, SEEN_EVERY } from "./presence";

const EVENTS = /^\/api\/attempts\/([^/?]+)\/events$/;

/** The open streams, each with its name. */
const open = new Map<ServerResponse, string>();
let stopping = false;

/** Ends all streams, so that the server can stop; the desks come back by themselves. */
export async function endEventStreams(): Promise<void> {
  stopping = true;
  const streams = [...open.values()];
  for (const response of open.keys()) response.end();
  await forgetDesks(streams);
}

/**
 * Server-sent events of one attempt, beside the framework, which would gather and compress them: whenever its quiz is
 * told something, how the attempt stands now. Answers whether the request was for one.
 */
export function eventsLane(request: IncomingMessage, response: ServerResponse): boolean {
  const attemptId = request.method === "GET" ? EVENTS.exec(request.url ?? "")?.[1] : undefined;
  if (attemptId === undefined) return false;
  void stream(request, response, attemptId);
  return true;
}

async function stream(request: IncomingMessage, response: ServerResponse, attemptId: string): Promise<void> {
  let viewer: Viewer;
  let quizId: string;
  try {
    const found = await viewerOf(sessionToken(cookieIn(request.headers.cookie, SESSION_COOKIE)));
    if (!found) throw notSignedIn();
    viewer = found;
    quizId = (await openAttempt(viewer, attemptId)).quiz.id;
  } catch (error) {
    const problem = problemOf(error);
    response.writeHead(problem.status, { "content-type": "application/problem+json" });
    response.end(JSON.stringify(problemBody(problem, "events")));
    return;
  }
  response.writeHead(200, {
    "content-type": "text/event-stream",
    "cache-control": "private, no-store",
    "x-content-type-options": "nosniff",
    "x-accel-buffering": "no",
  });
  const tell = async () => {
    try {
      response.write(`data: ${JSON.stringify(await attemptPulse(viewer, attemptId))}\n\n`);
    } catch (error) {
      log.error({ err: error }, "a desk could not be told; it asks by itself");
    }
  };
  const name = randomUUID();
  open.set(response, name);
  void deskOpened(name, attemptId, viewer.id);
  const stop = await onDesksTold(quizId, () => void tell());
  const beat = setInterval(() => {
    // Proxies end a connection on which nothing comes for long.
    response.write(": here\n\n");
    void deskSeen(name, attemptId, viewer.id);
  }, SEEN_EVERY);
  const end = () => {
    open.delete(response);
    clearInterval(beat);
    stop();
    if (!stopping) void deskClosed(name, attemptId, viewer.id);
  };
  if (response.destroyed) end();
  else response.on("close", end);
  response.write(`retry: ${comeBackAfter()}\n\n`);
}

/** In ms: scattered, so that a thousand desks do not come back in the same moment after a restart. */
const comeBackAfter = () => Math.round(1_500 + Math.random() * 2_500);
