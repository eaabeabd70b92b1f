import { badInput, Problem } from "./problems";

/** The largest body that an endpoint reads, in bytes. */
export const LARGEST_BODY = 2 * 1024 * 1024;

export const tooLarge = () =>
  new Problem(413, "too-large", `Send ${LARGEST_BODY / 1024 / 1024} MB at most in one request.`);

/** JSON from the text of a body. @throws Problem when it is none. */
export function parsedJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw badInput("The body must be JSON.");
  }
}

export const json = (value: unknown, status = 200): Response =>
  new Response(JSON.stringify(value), { status, headers: { "content-type": "application/json" } });
