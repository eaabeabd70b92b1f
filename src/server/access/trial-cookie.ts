import { cookieName, setCookie } from "../base/cookies";

/**
 * Whoever tries a quiz out is somebody else there, a student of their own making, and stays themselves everywhere else: this
 * cookie holds the student's session, and for which quiz and attempts it is taken instead of one's own.
 */
export const TRIAL_COOKIE = cookieName("trial");

/** What is done with the trial itself. */
const OWN = "/trial/";
const PLACE = /^\/(?:api\/)?(?:quizzes|attempts)\/([0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12})(?:[/?#]|$)/;
/** As many attempts of one trial are remembered, the newest ones. */
const MOST_IDS = 12;

export interface TrialCookie {
  /** The student's session, signed as any. */
  readonly session: string;
  /** The quiz and its attempts, by their ids. */
  readonly ids: readonly string[];
}

export function trialIn(value: string | undefined): TrialCookie | null {
  const [session = "", ...ids] = value?.split("~") ?? [];
  return session === "" || ids.length === 0 ? null : { session, ids };
}

/** The student's session, where a path is of the quiz that is tried out, or of the trial; null: one is oneself. */
export function trialSessionFor(path: string, value: string | undefined): string | null {
  const trial = trialIn(value);
  if (!trial) return null;
  const [, id] = PLACE.exec(path) ?? [];
  return path.startsWith(OWN) || (id !== undefined && trial.ids.includes(id)) ? trial.session : null;
}

/** The header that begins or goes on with a trial; it lasts until the browser is closed. */
export const trialCookie = ({ session, ids }: TrialCookie): string =>
  setCookie(TRIAL_COOKIE, [session, ids[0] ?? "", ...ids.slice(1).slice(-MOST_IDS)].join("~"), null);

/** The header that ends it in this browser. */
export const endTrialCookie = (): string => setCookie(TRIAL_COOKIE, "", 0);
