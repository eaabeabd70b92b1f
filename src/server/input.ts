import * as yup from "yup";
import { capitalized } from "@/core/text/words";
import { parsedJson } from "./json";
import { badInput } from "./problems";

/** A message of a check as a sentence for people. */
export const asSentence = (message: string): string =>
  `${capitalized(message)}${/[.!?]$/.test(message) ? "" : "."}`;

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
        error.path ? `“${error.path}” is not of the right type.` : "The body must be a JSON object.",
      );
    }
    throw badInput(asSentence(error.message));
  }
}

/** The JSON body of a request. @throws Problem when it is none. */
export const bodyOf = async (request: Request): Promise<unknown> => parsedJson(await request.text());
