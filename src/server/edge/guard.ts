import type { IncomingMessage, ServerResponse } from "node:http";
import type { Socket } from "node:net";
import { storable } from "@/core/text/storable";
import { SECOND } from "@/core/time/instants";
import { t } from "@/words/t";
import { tokenOf } from "../access/viewer";
import { spend, whose } from "../base/budgets";
import { config } from "../base/config";
import { notFound, notSignedIn, Problem } from "../base/problems";
import { asksForSession, isPublic } from "../base/public-paths";
import { answerProblem } from "./answer-problem";
import { bringsBody, counted, largestBody, longestWait, tooLarge } from "./bodies";
import { clientAddress, trustedProxies } from "./client-address";

/** What the framework would serve beside our pages, and nothing of ours uses. */
const UNUSED = /^\/_(image|server-islands|actions)(\/|$)/;
/** Only a trusted proxy's word counts, and that is read here; the framework would believe anyone's. */
const FORWARDING = [
  "x-forwarded-for",
  "x-forwarded-host",
  "x-forwarded-port",
  "x-forwarded-proto",
  "forwarded",
];
const READING = new Set(["GET", "HEAD", "OPTIONS"]);

/** Coming and going is never put off; tries to sign in are counted where they are looked at. */
const UNCOUNTED = new Set(["/sign-in", "/sign-in/code", "/sign-out", "/api/sign-in"]);

const trust = trustedProxies(config.trustProxy);

/** What is known of a request before anything of it is worked on. */
export interface Guarded {
  /** The network address that it comes from. */
  readonly address: string;
}

const isPlain = (text: string): boolean => storable(text) === text;

/** The path of a request, without its terms; null where its address cannot be read, or holds what no address of ours has. */
export function pathOf(request: IncomingMessage): string | null {
  const url = request.url ?? "";
  if (!url.startsWith("/") || url.startsWith("//") || !URL.canParse(url, "http://here")) return null;
  const { pathname, searchParams } = new URL(url, "http://here");
  try {
    const terms = [...searchParams].flat();
    return isPlain(decodeURIComponent(pathname)) && terms.every(isPlain) ? pathname : null;
  } catch {
    return null;
  }
}

const tooSlow = () => new Problem(408, "too-slow", t("server.edge.guard.the-request-came-too-slowly-and"));

/**
 * Before any work: who asks, whether the session's cookie is ours, how much may come and how long it may take. Returns null
 * when the request was refused, and answered, here.
 */
export async function guard(request: IncomingMessage, response: ServerResponse): Promise<Guarded | null> {
  const path = pathOf(request);
  try {
    const address = clientAddress(request, trust);
    for (const name of FORWARDING) delete request.headers[name];
    if (path === null || UNUSED.test(path)) throw notFound();
    const token = tokenOf(request);
    if (bringsBody(request)) limitBody(request, response, path, token);
    if (token !== null && !UNCOUNTED.has(path))
      await spend(READING.has(request.method ?? "") ? "reading" : "doing", whose(token));
    return { address };
  } catch (error) {
    answerProblem(request, response, error, path ?? "unreadable");
    return null;
  }
}

/** Ends a connection on which more may come than is taken, once the answer had time to arrive. */
function hangUp(socket: Socket): void {
  socket.end();
  setTimeout(() => socket.destroy(), 5 * SECOND).unref();
}

/** Lets a body in as far as it may come, and ends it when it comes too slowly. @throws Problem when it may not. */
export function limitBody(
  request: IncomingMessage,
  response: ServerResponse,
  path: string,
  token: string | null,
): void {
  if (token === null && asksForSession(path) && !isPublic(path)) throw notSignedIn();
  const most = largestBody(path);
  if (Number(request.headers["content-length"] ?? 0) > most) throw tooLarge(most);
  const timer = setTimeout(() => {
    answerProblem(request, response, tooSlow(), path);
  }, longestWait(most));
  const end = () => clearTimeout(timer);
  // Once the answer is out, the request knows its connection no more.
  const { socket } = request;
  request.once("end", end);
  request.once("close", end);
  response.once("finish", () => {
    if (!request.complete) hangUp(socket);
  });
  // What the framework reads in the place of the request itself.
  (request as IncomingMessage & { body?: unknown }).body = counted(request, most);
}
