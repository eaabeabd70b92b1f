import type { IncomingMessage, ServerResponse } from "node:http";
import { migrate } from "../data/migrate";
import { carryOverQuestions } from "../server/attempts/attempt-questions";
import { config } from "../server/base/config";
import { unsafeSettings } from "../server/base/safe-start";
import { endEventStreams, eventsLane } from "../server/desk/events-lane";
import { filesLane } from "../server/desk/files-lane";
import { saveLane } from "../server/desk/save-lane";
import { pathOf } from "../server/edge/guard";
import { startDeskKeeper } from "../server/jobs/desk-keeper";
import { startMailer } from "../server/jobs/mailer";
import { startComparing, startReMarker } from "../server/jobs/marking-jobs";
import { startNotifier } from "../server/jobs/notifier";
import { startSweeper } from "../server/jobs/sweeper";
import { startTidier } from "../server/jobs/tidier";
import { startTrialRemover } from "../server/jobs/trial-remover";
import { roomFilesLane } from "../server/marking/room-files";
import { ownDataLane } from "../server/profile/own-data-lane";
import { offerPeople } from "../server/sign-in/offered-people";
import { endWatchStreams, watchLane } from "../server/watch/watch-lane";

/**
 * What a process does besides answering requests. It shares its modules, and so its database connections, with the pages.
 */

/** A sample person of the demo, to be printed when it starts. */
export interface SampleSignIn {
  readonly name: string;
  readonly email: string;
  readonly password: string;
}

/** What preparing has come to. */
export interface Prepared {
  /** Whether the demo college was written into the database just now. */
  readonly wroteDemo: boolean;
  readonly signIns: readonly SampleSignIn[];
}

/**
 * Brings the database to the newest schema. For the demo, and for it alone, loads the college, writes it into a database
 * that has nobody in it, and offers its people at the sign-in page.
 * @throws Error when this installation must not start as it is set, with what would be right
 */
export async function prepare(): Promise<Prepared> {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error("DATABASE_URL is not set: it names the PostgreSQL database to use.");
  const problems = unsafeSettings(process.env);
  if (problems.length > 0) throw new Error(problems.join("\n"));
  await migrate(url);
  await carryOverQuestions();
  if (!config.demo) return { wroteDemo: false, signIns: [] };
  const [{ writeDemo }, { offeredPeople, sampleSignIns }] = await Promise.all([
    import("../demo/write-demo"),
    import("../demo/offered-people"),
  ]);
  offerPeople(offeredPeople);
  const wroteDemo = await writeDemo();
  if (config.largeDemo) await (await import("../demo/large-class")).writeLargeClass();
  return { wroteDemo, signIns: sampleSignIns() };
}

/** Starts what runs beside answering; returns how to stop it. */
export function startJobs(): () => Promise<void> {
  const stops = [
    startSweeper(),
    startNotifier(),
    startMailer(),
    startDeskKeeper(),
    startTidier(),
    startTrialRemover(),
    startReMarker(),
    startComparing(),
  ];
  return async () => {
    endWatchStreams();
    await endEventStreams();
    await Promise.all(stops.map((stopJob) => stopJob()));
  };
}

const LANES = [saveLane, eventsLane, watchLane, filesLane, roomFilesLane, ownDataLane];

/** Requests that have a way of their own beside the framework; returns whether this was one. */
export function ownLane(request: IncomingMessage, response: ServerResponse): boolean {
  const path = pathOf(request);
  return LANES.some((lane) => lane(request, response, path));
}
