import { storableValue } from "@/core/text/storable";
import { t } from "@/words/t";
import { badInput, Problem } from "./problems";

/** Whether a content type says that a body is JSON. */
export const isJson = (contentType: string | null | undefined): boolean =>
  /^application\/json\s*(;|$)/i.test(contentType ?? "");

export const notJson = () => new Problem(415, "not-json", t("server.base.json.send-the-body-as-json-and"));

/** What only an escape can bring into JSON that was sent as UTF-8, and what needs none: the rest needs no second look. */
// biome-ignore lint/suspicious/noControlCharactersInRegex: they are what is looked for
const SUSPECT = /\\u(00[01]|007f|d[89a-f])|[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f]|\\[bf]/i;
/** Nothing that is sent here lies deeper, and what reads it goes down step by step. */
const DEEPEST = 64;

function isTooDeep(value: unknown, left = DEEPEST): boolean {
  if (typeof value !== "object" || value === null) return false;
  return left === 0 || Object.values(value).some((each) => isTooDeep(each, left - 1));
}

/** JSON from the text of a body, every text in it storable. @throws Problem when it is none. */
export function parsedJson(text: string): unknown {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw badInput(t("server.base.json.the-body-must-be-json"));
  }
  if (isTooDeep(value))
    throw badInput(t("server.base.json.the-body-must-not-be-nested", { deepest: DEEPEST }));
  return SUSPECT.test(text) ? storableValue(value) : value;
}

export const json = (value: unknown, status = 200): Response =>
  new Response(JSON.stringify(value), { status, headers: { "content-type": "application/json" } });
