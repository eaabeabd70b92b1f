import type { Said } from "@/core/said";
import type { Values } from "./forms";
import type en from "./languages/en.json";
import { type Compiled, Speaker } from "./speaker";

/** A key of the catalogue. */
export type Key = keyof typeof en & string;

/** The element of a page that holds the words of its islands. */
export const WORDS_ELEMENT = "words";

let ofPage: Speaker | null = null;

/** In the browser: the language that the page came in, with the words that it brought. */
function pageSpeaker(): Speaker {
  if (ofPage) return ofPage;
  const element = document.getElementById(WORDS_ELEMENT);
  const { language = "en", tag = "en-GB" } = element?.dataset ?? {};
  ofPage = new Speaker(language, tag, JSON.parse(element?.textContent || "{}") as Compiled);
  return ofPage;
}

let current: () => Speaker = pageSpeaker;

/** Sets who speaks: on the server, whoever is asked for; in a test, one language. */
export function speakBy(speaker: () => Speaker): void {
  current = speaker;
}

/** Who speaks now: the language of the reader. */
export const speaker = (): Speaker => current();

/**
 * The words of the interface in the reader's language.
 * @param values what stands in them: numbers, texts, or sentences that are meant
 */
export const t = (key: Key, values?: Values): string => current().say(key, values);

/** What is meant, in the reader's language; nothing stays nothing. */
export function say(said: Said): string;
export function say<N extends null | undefined>(said: Said | N): string | N;
export function say(said: Said | null | undefined): string | null | undefined {
  return said === null || said === undefined ? said : current().saySaid(said);
}

/** For JSON that people read: what is meant stands in it as it is said. */
export const saidInJson = (_key: string, value: unknown): unknown =>
  typeof value === "object" && value !== null && "code" in value && typeof value.code === "string"
    ? say(value as Said)
    : value;
