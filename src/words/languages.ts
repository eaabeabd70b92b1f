import { compileMessage } from "@lingui/message-utils/compileMessage";
import { memo } from "@/core/memo";
import { type Compiled, Speaker } from "./speaker";

/** Every language has a file of its own here, and nothing else: a new one is added by adding its file. */
const files = import.meta.glob<Readonly<Record<string, string>>>("./languages/*.json", {
  eager: true,
  import: "default",
});

const catalogues = new Map(
  Object.entries(files).map(([file, messages]) => [file.replace(/^.*\/|\.json$/g, ""), messages]),
);

/** The languages that there are, by their short names, English first. */
export const LANGUAGES: readonly string[] = [...catalogues.keys()].sort((a, b) =>
  a === "en" ? -1 : b === "en" ? 1 : a.localeCompare(b),
);

export const isLanguage = (name: unknown): name is string => typeof name === "string" && catalogues.has(name);

/** The name of a language in itself: "English", "日本語". */
export const languageName = (language: string): string =>
  catalogues.get(language)?.["language.name"] ?? language;

const compiled = new Map<string, Compiled>();

/** The messages of a language as they are said. What a language lacks is said in English. */
const compiledOf = (language: string): Compiled =>
  memo(compiled, language, () =>
    Object.fromEntries(
      Object.entries({ ...catalogues.get("en"), ...catalogues.get(language) }).map(([key, message]) => [
        key,
        compileMessage(message),
      ]),
    ),
  );

const speakers = new Map<string, Speaker>();

/** Who speaks a language. @throws RangeError for one that is not there */
export const speakerOf = (language: string): Speaker =>
  memo(speakers, language, () => {
    const tag = catalogues.get(language)?.["language.tag"];
    if (!tag) throw new RangeError(`There is no language ${language}.`);
    return new Speaker(language, tag, compiledOf(language));
  });

const slices = new Map<string, string>();
/** As many as there are desks of different kinds of questions, and some. */
const MOST_SLICES = 500;

/** The words of a language whose keys begin with one of some names, as JSON for the islands of a page. */
export const wordsOf = (language: string, rooms: readonly string[]): string =>
  memo(
    slices,
    `${language} ${rooms.join(" ")}`,
    () => {
      const some = Object.entries(compiledOf(language)).filter(([key]) =>
        rooms.some((room) => key.startsWith(`${room}.`)),
      );
      // Within a script element nothing may look like its end.
      return JSON.stringify(Object.fromEntries(some)).replaceAll("<", "\\u003c");
    },
    MOST_SLICES,
  );
