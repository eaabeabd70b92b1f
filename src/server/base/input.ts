import * as yup from "yup";
import { sayInputWords } from "@/core/input-words";
import type { Said } from "@/core/said";
import { capitalized } from "@/core/text/capitalized";
import { storable } from "@/core/text/storable";
import { say, t } from "@/words/t";
import { isJson, notJson, parsedJson } from "./json";
import { badInput, Problem } from "./problems";

// Every shape of an input is made after this module is loaded: what its rules say is said in the reader's language.
sayInputWords();

/** What a check says as a sentence for people. @param path what it is about, where the check does not name it */
export function asSentence(problem: Said, path = ""): string {
  const isGeneral = typeof problem !== "string" && problem.code.startsWith("input.");
  const words = isGeneral && path !== "" ? t("input.at", { path, problem }) : say(problem);
  return /[.!?。]$/.test(words) ? capitalized(words) : t("input.sentence", { words: capitalized(words) });
}

/** What a check that failed says first, as a sentence. */
export const mistakeSentence = ({ errors, path }: yup.ValidationError): string =>
  asSentence((errors[0] as Said | undefined) ?? "", path);

/** Whether a text says something, or is absent. Spaces at its ends, as telephones write them, are no mistake. */
export const hasWords = (text: string | null | undefined): boolean =>
  text === null || text === undefined || text.trim() !== "";

/**
 * Input of the right shape. The terms of an address are texts and are read as what they stand for; a body is taken as it
 * is. @throws Problem with a sentence that says what would be right.
 */
export function inputOf<T>(shape: yup.Schema<T>, input: unknown, from: "body" | "address" = "body"): T {
  try {
    return shape.validateSync(input, { strict: from === "body" });
  } catch (error) {
    if (!(error instanceof yup.ValidationError)) throw error;
    if (error.type === "typeError" || error.type === "nullable") {
      throw badInput(
        error.path
          ? t("input.is-not-of-the-right-type", { path: error.path })
          : t("input.the-body-must-be-a-json"),
      );
    }
    throw badInput(mistakeSentence(error));
  }
}

/** The JSON body of a request. @throws Problem when it is none. */
export async function bodyOf(request: Request): Promise<unknown> {
  if (!isJson(request.headers.get("content-type"))) throw notJson();
  return parsedJson(await request.text());
}

const FORM = /^(application\/x-www-form-urlencoded|multipart\/form-data)\s*(;|$)/i;

/** The form that a page sent, every text in it storable. @throws Problem when the body is none. */
export async function formOf(request: Request): Promise<FormData> {
  if (!FORM.test(request.headers.get("content-type") ?? "")) {
    throw new Problem(415, "not-a-form", t("input.send-this-as-the-form-of"));
  }
  try {
    const form = new FormData();
    for (const [name, value] of await request.formData()) {
      form.append(storable(name), typeof value === "string" ? storable(value) : value);
    }
    return form;
  } catch (error) {
    if (error instanceof Problem) throw error;
    throw new Problem(400, "broken-form", t("input.the-form-that-was-sent-could"));
  }
}

/** The fields of a form that are texts, each once: of several with one name the last. */
export const fieldsOf = async (request: Request): Promise<Record<string, string>> =>
  Object.fromEntries(
    [...(await formOf(request))].filter((each): each is [string, string] => typeof each[1] === "string"),
  );
