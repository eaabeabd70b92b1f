/** A refusal of the server, as a sentence for people. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly type: string,
    sentence: string,
  ) {
    super(sentence);
    this.name = "Refusal";
  }
}

/** Posts or gets JSON. @throws Refusal when the server refuses; TypeError when it cannot be reached. */
export async function ask<T>(
  path: string,
  options: { readonly body?: unknown; readonly keepalive?: boolean; readonly limit?: number } = {},
): Promise<T> {
  const { body, keepalive = false, limit = 20_000 } = options;
  const response = await fetch(path, {
    method: body === undefined ? "GET" : "POST",
    ...(body === undefined
      ? {}
      : { body: JSON.stringify(body), headers: { "content-type": "application/json" } }),
    keepalive,
    cache: "no-store",
    signal: AbortSignal.timeout(limit),
  });
  const answer = (await response.json().catch(() => null)) as { type?: string; title?: string } | null;
  if (!response.ok) {
    const sentence = answer?.title ?? "The server could not be understood. Try again in a moment.";
    throw new Refusal(response.status, answer?.type?.split(":").at(-1) ?? "unknown", sentence);
  }
  return answer as T;
}
