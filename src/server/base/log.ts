import pino from "pino";

/** An error without what it was about: a failed query's parameters may be answers or tokens, and stay out of the log. */
export function bareError(error: unknown): Record<string, unknown> {
  if (!(error instanceof Error)) return { message: "not an error" };
  const { cause } = error;
  return {
    type: error.name,
    message: error.message.split(/\n?params:/)[0],
    ...(cause instanceof Error ? { cause: cause.message } : {}),
    stack: error.stack?.match(/^\s+at .*$/gm)?.slice(0, 12),
  };
}

/** Structured log lines. They hold no answers, no passwords and no session tokens. */
export const log = pino({
  level: process.env.SHIZUKA_LOG ?? "warn",
  base: null,
  serializers: { err: bareError },
  timestamp: pino.stdTimeFunctions.isoTime,
});
