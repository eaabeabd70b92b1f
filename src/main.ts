import type { IncomingMessage, ServerResponse } from "node:http";
import { disconnect } from "./data/database";
import { migrate } from "./data/migrate";
import { layDemo } from "./demo/lay";
import { ADMINISTRATOR, addressOf, INSTRUCTORS, NOOR } from "./demo/people";
import { config } from "./server/base/config";
import { unsafeSettings } from "./server/base/safe-start";
import { endEventStreams, eventsLane } from "./server/desk/events-lane";
import { filesLane } from "./server/desk/files-lane";
import { saveLane } from "./server/desk/save-lane";
import { pathOf } from "./server/edge/guard";
import { startDeskKeeper } from "./server/jobs/desk-keeper";
import { startMailer } from "./server/jobs/mailer";
import { startSweeper } from "./server/jobs/sweeper";
import { startTeller } from "./server/jobs/teller";
import { startTidier } from "./server/jobs/tidier";
import { ownDataLane } from "./server/profile/own-data-lane";
import { DEMO_PASSWORD } from "./server/sign-in/offered-people";

/**
 * What a process does besides answering requests. The build makes a file of its own of this one, which the starting
 * scripts in `tools/` load; it shares its modules, and so its database connections, with the pages.
 */

/** Brings the database to the newest schema and, for the demo, lays the college if nobody is there. */
export async function prepare(): Promise<{ laid: boolean }> {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error("DATABASE_URL is not set: it names the PostgreSQL database to use.");
  const problems = unsafeSettings(process.env);
  if (problems.length > 0) throw new Error(problems.join("\n"));
  await migrate(url);
  return { laid: config.demo ? await layDemo() : false };
}

/** Starts what runs beside answering; answers how to stop it. */
export function startJobs(): () => Promise<void> {
  const stops = [startSweeper(), startTeller(), startMailer(), startDeskKeeper(), startTidier()];
  return async () => {
    await endEventStreams();
    await Promise.all(stops.map((stopJob) => stopJob()));
  };
}

const LANES = [saveLane, eventsLane, filesLane, ownDataLane];

/** Requests that have a way of their own beside the framework; answers whether this was one. */
export function ownLane(request: IncomingMessage, response: ServerResponse): boolean {
  const path = pathOf(request);
  return LANES.some((lane) => lane(request, response, path));
}

export { inLanguageOf } from "./server/base/language";
export { inTurn } from "./server/base/turns";
export { guard } from "./server/edge/guard";
export const stop = disconnect;

/** Whether people reach this installation over TLS. */
export const { isSecure } = config;

/** The sample sign-ins to print at the start of the demo. */
export const sampleSignIns = () =>
  [NOOR, INSTRUCTORS.nav, ADMINISTRATOR].map((name) => ({
    name,
    email: addressOf(name),
    password: DEMO_PASSWORD,
  }));
