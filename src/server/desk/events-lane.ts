import { randomUUID } from "node:crypto";
import type { IncomingMessage, ServerResponse } from "node:http";
import { validate as isUuid } from "uuid";
import { MINUTE } from "@/core/time/instants";
import { tokenOf, type Viewer, viewerOf } from "../access/viewer";
import { openAttempt } from "../attempts/open-attempt";
import { spend } from "../base/budgets";
import { onDesksSignalled } from "../base/desk-events";
import { log } from "../base/log";
import { notSignedIn } from "../base/problems";
import { answerProblem } from "../edge/answer-problem";
import { attemptPulse } from "./open-desk";
import { deskClosed, deskOpened, deskSeen, forgetDesks, type OpenDesk, SEEN_EVERY } from "./presence";

const EVENTS = /^\/api\/attempts\/([^/]+)\/events$/;

/** More desks of one attempt than anyone has open, and more of one person; the oldest gives way. */
const MOST_OF_ATTEMPT = 6;
const MOST_OF_PERSON = 12;
/** A desk that gave way comes back when its person may have closed another; in ms. */
const AFTER_GIVING_WAY = MINUTE;

/** The open streams, the oldest first. */
const open = new Map<ServerResponse, OpenDesk>();
let stopping = false;

/** Ends the oldest streams of someone who has too many, so that nobody makes the server tell a hundred desks. */
function makeRoom(personId: string, attemptId: string): void {
  const theirs = [...open].filter(([, stream]) => stream.personId === personId);
  const ofAttempt = theirs.filter(([, stream]) => stream.attemptId === attemptId);
  const [oldest] =
    ofAttempt.length >= MOST_OF_ATTEMPT ? ofAttempt : theirs.length >= MOST_OF_PERSON ? theirs : [];
  if (!oldest) return;
  const [response] = oldest;
  response.end(`retry: ${AFTER_GIVING_WAY}\n\n`);
  open.delete(response);
}

/** Ends all streams, so that the server can stop; the desks come back by themselves. */
export async function endEventStreams(): Promise<void> {
  stopping = true;
  const streams = [...open.values()].map(({ stream }) => stream);
  for (const response of open.keys()) response.end();
  await forgetDesks(streams);
}

/**
 * Server-sent events of one attempt, beside the framework, which would gather and compress them: whenever its quiz is
 * told something, or another desk of it changes something, how the attempt stands now. Returns whether the request was for one.
 */
export function eventsLane(request: IncomingMessage, response: ServerResponse, path: string | null): boolean {
  if (request.method !== "GET") return false;
  const attemptId = path === null ? undefined : EVENTS.exec(path)?.[1];
  if (path === null || attemptId === undefined) return false;
  void stream(request, response, path, attemptId);
  return true;
}

/** The page as a writer of answers, as it names itself; null where it does not. */
function deviceOf(request: IncomingMessage): string | null {
  const device = new URL(request.url ?? "", "http://desk").searchParams.get("device")?.toLowerCase() ?? "";
  return isUuid(device) ? device : null;
}

async function stream(
  request: IncomingMessage,
  response: ServerResponse,
  path: string,
  attemptId: string,
): Promise<void> {
  const token = tokenOf(request);
  let viewer: Viewer;
  let quizId: string;
  try {
    const found = await viewerOf(token);
    if (!found) throw notSignedIn();
    viewer = found;
    await spend("reading", viewer.id);
    quizId = (await openAttempt(viewer, attemptId)).quiz.id;
  } catch (error) {
    answerProblem(request, response, error, path);
    return;
  }
  makeRoom(viewer.id, attemptId);
  response.writeHead(200, {
    "content-type": "text/event-stream",
    "cache-control": "private, no-store",
    "x-content-type-options": "nosniff",
    "x-accel-buffering": "no",
  });
  const say = (text: string) => {
    if (!response.writableEnded) response.write(text);
  };
  const tell = async () => {
    try {
      say(`data: ${JSON.stringify(await attemptPulse(viewer, attemptId))}\n\n`);
    } catch (error) {
      log.error({ err: error }, "a desk could not be told; it asks by itself");
    }
  };
  const desk: OpenDesk = { stream: randomUUID(), personId: viewer.id, attemptId, device: deviceOf(request) };
  open.set(response, desk);
  const stop = await onDesksSignalled(quizId, attemptId, (device) => {
    if (device === null || device !== desk.device) void tell();
  });
  // Once it listens: what happened before is told by what it asks for itself.
  void deskOpened(desk);
  const beat = setInterval(() => void stillHere(), SEEN_EVERY);
  const stillHere = async () => {
    // Whoever has signed out, here or from another device, hears nothing more.
    const isSignedIn = await viewerOf(token).catch(() => viewer);
    if (!isSignedIn) return void response.end();
    // Proxies end a connection on which nothing comes for long.
    say(": here\n\n");
    await deskSeen(desk);
  };
  const end = () => {
    open.delete(response);
    clearInterval(beat);
    stop();
    if (!stopping) void deskClosed(desk);
  };
  if (response.destroyed) end();
  else response.on("close", end);
  say(`retry: ${comeBackAfter()}\n\n`);
}

/** In ms: scattered, so that a thousand desks do not come back in the same moment after a restart. */
const comeBackAfter = () => Math.round(1_500 + Math.random() * 2_500);
