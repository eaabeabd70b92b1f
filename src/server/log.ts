import pino from "pino";

/** Structured log lines. They hold no answers, no passwords and no session tokens. */
export const log = pino({
  level: process.env.SHIZUKA_LOG ?? "warn",
  base: null,
  timestamp: pino.stdTimeFunctions.isoTime,
});
