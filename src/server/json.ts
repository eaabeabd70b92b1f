import { badInput, Problem } from "./problems";

/** The largest body that an endpoint reads, in bytes. */
const LARGEST = 512 * 1024;

/** The JSON body of a request. @throws Problem when it is too large or no JSON. */
export async function jsonBody(request: Request): Promise<unknown> {
  const tooLarge = () => new Problem(413, "too-large", `Send ${LARGEST / 1024} kB at most in one request.`);
  if (Number(request.headers.get("content-length") ?? 0) > LARGEST) throw tooLarge();
  const text = await request.text();
  if (text.length > LARGEST) throw tooLarge();
  try {
    return JSON.parse(text);
  } catch {
    throw badInput("The body must be JSON.");
  }
}

export const json = (value: unknown, status = 200): Response =>
  new Response(JSON.stringify(value), { status, headers: { "content-type": "application/json" } });
