import { AsyncLocalStorage } from "node:async_hooks";
import type { IncomingMessage } from "node:http";
import { DAY } from "@/core/time/instants";
import { isLanguage, speakerOf } from "@/words/languages";
import { speakBy } from "@/words/t";
import { config } from "./config";
import { cookieIn, cookieName, setCookie } from "./cookies";

const readers = new AsyncLocalStorage<string>();

speakBy(() => speakerOf(readers.getStore() ?? config.language));

/** Does something in the language of a reader; null: in the institution's own. */
export const inLanguage = <R>(language: string | null, work: () => R): R =>
  readers.run(isLanguage(language) ? language : config.language, work);

const LANGUAGE_COOKIE = cookieName("language");

/**
 * Does the work of a request in the language that its browser has noted: what its reader chose, or what was noted for them
 * when they signed in. No request asks the database for it.
 */
export const inLanguageOf = <R>({ headers }: Pick<IncomingMessage, "headers">, work: () => R): R =>
  inLanguage(cookieIn(headers.cookie, LANGUAGE_COOKIE) ?? null, work);

/** The header that notes a language in the browser; null: no longer one of its own. */
export const languageCookie = (language: string | null): string =>
  setCookie(LANGUAGE_COOKIE, language ?? "", language === null ? 0 : 365 * DAY);
