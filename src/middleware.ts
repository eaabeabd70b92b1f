import { defineMiddleware } from "astro:middleware";
import { say } from "@/words/t";
import { TRIAL_COOKIE, trialSessionFor } from "./server/access/trial-cookie";
import { SESSION_COOKIE, tokenAt, viewerOf } from "./server/access/viewer";
import { config } from "./server/base/config";
import { log } from "./server/base/log";
import { refuseForeign } from "./server/base/origin";
import { notFound, notSignedIn, type Problem, problemBody, problemOf } from "./server/base/problems";
import { asksForSession, isApi, isPublic, loggedPath } from "./server/base/public-paths";
import { countingQueries } from "./server/base/query-count";
import { newReference } from "./server/base/reference";
import { isPage, wholePage } from "./server/base/whole-page";

const SAFE_METHODS = new Set(["GET", "HEAD", "OPTIONS"]);

const retryHeader = ({ more: { retryAfter } }: Problem): Record<string, string> =>
  typeof retryAfter === "number" ? { "retry-after": String(retryAfter) } : {};

const problemResponse = (problem: Problem, reference: string) =>
  new Response(JSON.stringify(problemBody(problem, reference)), {
    status: problem.status,
    headers: { "content-type": "application/problem+json", ...retryHeader(problem) },
  });

export const onRequest = defineMiddleware(async (context, next) => {
  const { request, url, locals, cookies } = context;
  // The pages that say what went wrong come through here again; they ask for nothing that could fail once more.
  if (locals.failed) return next();
  const path = url.pathname;
  const reference = newReference();
  const started = performance.now();
  locals.reference = reference;
  locals.institution = config.institution;
  locals.zone = config.zone;
  const trial = cookies.get(TRIAL_COOKIE)?.value;
  locals.token = tokenAt(path, cookies.get(SESSION_COOKIE)?.value, trial);
  locals.isTrial = trialSessionFor(path, trial) !== null;
  locals.viewer = null;
  locals.unseen = 0;

  // A page of another address, without the body, which may have been read already.
  const instead = (page: string) =>
    context.rewrite(new Request(new URL(page, url), { headers: request.headers }));

  const answer = async (): Promise<Response> => {
    try {
      if (!SAFE_METHODS.has(request.method)) {
        refuseForeign(request.headers.get("origin"), request.headers.get("host") ?? url.host);
      }
      const asks = asksForSession(path);
      const found = asks ? await viewerOf(locals.token) : null;
      locals.viewer = found;
      locals.unseen = found?.unseen ?? 0;
      if (asks && !locals.viewer && !isPublic(path)) {
        if (isApi(path)) throw notSignedIn();
        const wanted =
          SAFE_METHODS.has(request.method) && path !== "/" ? `?after=${encodeURIComponent(path)}` : "";
        return context.redirect(`/sign-in${wanted}`, 303);
      }
      const response = await next();
      if (isApi(path) && response.status === 404) throw notFound();
      return await wholePage(response);
    } catch (error) {
      const problem = problemOf(error);
      // A client that has gone in the middle of a request is not a fault of ours.
      if (problem.status >= 500 && !request.signal.aborted)
        log.error({ err: error, reference, path: loggedPath(path) }, "request failed");
      if (isApi(path)) return problemResponse(problem, reference);
      if (problem.status === 401) return context.redirect(`/sign-in?after=${encodeURIComponent(path)}`, 303);
      locals.failed = true;
      if (problem.status === 404) return instead("/404");
      if (problem.status < 500) {
        return new Response(say(problem.sentence), {
          status: problem.status,
          headers: { "content-type": "text/plain; charset=utf-8", ...retryHeader(problem) },
        });
      }
      return instead("/500");
    }
  };

  const { result: response, queries } = await countingQueries(answer);
  const headers = response.headers;
  if (isPage(response)) {
    headers.set("content-type", "text/html; charset=utf-8");
    tightenPolicy(headers);
  }
  if (!headers.has("cache-control")) headers.set("cache-control", "private, no-store");
  if (config.tellsQueries) headers.set("server-timing", `db;desc="${queries} queries"`);
  log.info(
    {
      reference,
      method: request.method,
      path: loggedPath(path),
      status: response.status,
      ms: Math.round(performance.now() - started),
      queries,
    },
    "request",
  );
  return response;
});

/**
 * Astro hashes its own scripts and styles. Scripts stay that strict; styles are loosened to inline ones, because React
 * and its libraries set style attributes, and what a style can do is held by the other directives.
 */
function tightenPolicy(headers: Headers): void {
  const policy = headers.get("content-security-policy");
  if (!policy) return;
  const kept = policy
    .split(";")
    .map((directive) => directive.trim())
    .filter((directive) => directive.startsWith("script-src"));
  const rest = [
    "default-src 'self'",
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ];
  headers.set("content-security-policy", [...rest, ...kept].join("; "));
}
