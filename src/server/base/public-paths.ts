/** Pages that anyone may see, signed in or not. */
const PUBLIC: ReadonlySet<string> = new Set([
  "/sign-in",
  "/sign-in/code",
  "/verify",
  "/language",
  "/404",
  "/500",
]);
/** Whoever checks a quiz for a colleague need not sign in: the address is the key. */
const CHECKING = "/check/";

export const isPublic = (path: string): boolean => PUBLIC.has(path) || path.startsWith(CHECKING);

/** What is answered without asking who it is. */
export const WITHOUT_SESSION: ReadonlySet<string> = new Set(["/health", "/api/time", "/api/sign-in"]);

/** Calendar programs do not sign in: the address is the key. */
const CALENDARS = "/calendar/";

export const asksForSession = (path: string): boolean =>
  !WITHOUT_SESSION.has(path) && !path.startsWith(CALENDARS);

/** A path as it may stand in a log: without what is a key by itself. */
export const loggedPath = (path: string): string =>
  [CALENDARS, CHECKING].reduce((masked, begin) => (masked.startsWith(begin) ? `${begin}...` : masked), path);

export const isApi = (path: string): boolean => path.startsWith("/api/");
