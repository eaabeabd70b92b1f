import { t } from "@/words/t";
/** A refusal of the server, as a sentence for people. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly type: string,
    sentence: string,
    /** What else the server said with it. */
    readonly more: Readonly<Record<string, unknown>> = {},
  ) {
    super(sentence);
    this.name = "Refusal";
  }
}

/** What the server said against it, or else what to say where it could not be asked. */
export const refusalOr = (error: unknown, otherwise: string): string =>
  error instanceof Refusal ? error.message : otherwise;

/** In characters: 64 kB is the limit, and a character may take three bytes. */
const LARGEST_KEPT_ALIVE = 20_000;

/** What was answered, as JSON. @throws Refusal when the server refused */
async function answerIn<T>(response: Response): Promise<T> {
  const answer = (await response.json().catch(() => null)) as { type?: string; title?: string } | null;
  if (!response.ok) {
    const sentence = answer?.title ?? t("ui.requests.the-server-could-not-be-understood");
    throw new Refusal(response.status, answer?.type?.split(":").at(-1) ?? "unknown", sentence, {
      ...answer,
    });
  }
  return answer as T;
}

/** Posts or gets JSON. @throws Refusal when the server refuses; TypeError when it cannot be reached. */
export async function ask<T>(
  path: string,
  options: { readonly body?: unknown; readonly keepalive?: boolean; readonly limit?: number } = {},
): Promise<T> {
  const { body, keepalive = false, limit = 20_000 } = options;
  const text = body === undefined ? undefined : JSON.stringify(body);
  const response = await fetch(path, {
    method: body === undefined ? "GET" : "POST",
    ...(text === undefined ? {} : { body: text, headers: { "content-type": "application/json" } }),
    // Browsers refuse to keep larger requests alive; they may still get through while the page closes.
    keepalive: keepalive && (text?.length ?? 0) < LARGEST_KEPT_ALIVE,
    cache: "no-store",
    signal: AbortSignal.timeout(limit),
  });
  return answerIn<T>(response);
}

/** Posts a form with a file. @throws Refusal when the server refuses; TypeError when it cannot be reached. */
export async function send<T>(path: string, form: FormData, limit = 60_000): Promise<T> {
  return answerIn<T>(await fetch(path, { method: "POST", body: form, signal: AbortSignal.timeout(limit) }));
}

/** Posts the bytes of a file. @throws Refusal when the server refuses; TypeError when it cannot be reached. */
export async function sendBytes<T>(path: string, bytes: Blob, limit = 60_000): Promise<T> {
  const headers = { "content-type": "application/octet-stream" };
  return answerIn<T>(
    await fetch(path, { method: "POST", body: bytes, headers, signal: AbortSignal.timeout(limit) }),
  );
}
