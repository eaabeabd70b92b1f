import * as yup from "yup";
import { badInput } from "./problems";

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
    const { message } = error;
    throw badInput(
      `${message.charAt(0).toUpperCase()}${message.slice(1)}${/[.!?]$/.test(message) ? "" : "."}`,
    );
  }
}

/** The JSON body of a request. @throws Problem when it is none. */
export async function bodyOf(request: Request): Promise<unknown> {
  try {
    return await request.json();
  } catch {
    throw badInput("The body must be JSON.");
  }
}
