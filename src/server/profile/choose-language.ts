import { eq } from "drizzle-orm";
import * as yup from "yup";
import { said } from "@/core/said";
import { database } from "@/data/database";
import { person } from "@/data/schema";
import { LANGUAGES } from "@/words/languages";
import type { Viewer } from "../access/viewer";
import { inputOf } from "../base/input";
import { languageCookie } from "../base/language";

const form = yup.object({
  /** Empty: the institution's own. */
  language: yup
    .string()
    .oneOf(["", ...LANGUAGES], said("server.profile.choose-language.there-is-no-such-language"))
    .default(""),
});

/**
 * Chooses the language of the interface: for the browser, and for whoever is signed in. Returns the header that notes it in
 * the browser. @throws Problem for a language that is not there
 */
export async function chooseLanguage(
  viewer: Pick<Viewer, "id"> | null,
  input: { readonly language?: unknown },
): Promise<string> {
  const { language } = inputOf(form, { language: input.language }, "address");
  const chosen = language === "" ? null : language;
  if (viewer) await database().update(person).set({ language: chosen }).where(eq(person.id, viewer.id));
  return languageCookie(chosen);
}
