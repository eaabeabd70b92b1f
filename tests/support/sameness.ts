import type { Answered } from "./house";

/** Headers that differ from answer to answer whatever is asked. */
const OWN = new Set(["date", "connection", "keep-alive", "content-length", "transfer-encoding"]);

/** What names one asking: ids, slugs that were asked for, and the reference of a refusal. */
const withoutNames = (text: string, asked: readonly string[]): string =>
  asked
    .reduce((left, name) => left.replaceAll(name, "NAME"), text)
    .replace(/"reference":"[0-9a-f]+"/g, '"reference":"R"')
    .replace(/\b[0-9a-f]{10}\b/g, "R")
    .replace(/[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}/g, "ID")
    // How many notices wait, and what time it is, may change meanwhile.
    .replace(/<span class="absolute top-0[^<]*<\/span>/g, "")
    .replace(/Notices, \d+ new/g, "Notices");

/**
 * In what two answers differ beyond what names the asking: in status, headers or words. Of two things that one may not see,
 * one of which is there, nothing must be left.
 */
export function differences(one: Answered, other: Answered, asked: readonly string[]): string[] {
  const found: string[] = [];
  if (one.status !== other.status) found.push(`status ${one.status} and ${other.status}`);
  const names = new Set([...Object.keys(one.headers), ...Object.keys(other.headers)]);
  for (const name of names) {
    if (OWN.has(name)) continue;
    const [a, b] = [one.headers[name], other.headers[name]].map(
      (value) => value && withoutNames(value, asked),
    );
    if (a !== b) found.push(`${name}: ${a} and ${b}`);
  }
  const [a = "", b = ""] = [one.text, other.text].map((text) => withoutNames(text, asked));
  if (a !== b) {
    const at = [...a].findIndex((letter, i) => letter !== b[i]);
    found.push(
      `words: …${a.slice(Math.max(0, at - 40), at + 60)}… and …${b.slice(Math.max(0, at - 40), at + 60)}…`,
    );
  }
  return found;
}
