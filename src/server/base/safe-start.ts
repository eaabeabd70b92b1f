import { isIP } from "node:net";
import { isLanguage, LANGUAGES } from "@/words/languages";

type Environment = Readonly<Record<string, string | undefined>>;

const isLoopback = (host: string): boolean =>
  host === "localhost" || host === "::1" || (isIP(host) === 4 && host.startsWith("127."));

/** Why this installation must not start as it is set, each with what would be right. */
export function unsafeSettings(env: Environment): string[] {
  const problems: string[] = [];
  const secret = env.SHIZUKA_SECRET ?? "";
  if (secret.length < 32 || new Set(secret).size < 10)
    problems.push(
      "SHIZUKA_SECRET must be 32 random characters or more: it signs the sessions. `openssl rand -hex 32` makes one.",
    );
  if (env.SHIZUKA_DEMO === "1" && !isLoopback(env.HOST ?? "127.0.0.1") && env.SHIZUKA_DEMO_ANYWHERE !== "1")
    problems.push(
      "The passwords of the demo are known to everyone, so it answers on this machine alone. Set SHIZUKA_DEMO=0 to serve others, or SHIZUKA_DEMO_ANYWHERE=1 to show the demo to others all the same.",
    );
  if (env.SHIZUKA_TEST !== "1" && Number(env.SHIZUKA_CLOCK_SHIFT_MS ?? 0) !== 0)
    problems.push("SHIZUKA_CLOCK_SHIFT_MS moves the server's clock, which is for tests alone. Take it away.");
  for (const name of ["SHIZUKA_IDLE_HOURS", "SHIZUKA_BUDGET"]) {
    const value = env[name];
    if (value !== undefined && !(Number(value) > 0)) problems.push(`${name} must be a number more than 0.`);
  }
  const language = env.SHIZUKA_LANGUAGE;
  if (language && !isLanguage(language))
    problems.push(`SHIZUKA_LANGUAGE must be one of ${LANGUAGES.join(", ")}.`);
  return problems;
}
