import { filePath } from "@/core/attempt/paths";
import { Refusal } from "@/ui/requests";
import { t } from "@/words/t";
import { type DeviceStore, openDeviceStore } from "./device-store";

/** In bytes; a lost connection costs at most one piece. */
const PIECE = 256 * 1024;
const FIRST_PAUSE = 1_000;
const LONGEST_PAUSE = 15_000;

/** A file on its way, as the desk shows it. */
export interface PendingFile {
  readonly id: string;
  readonly slot: number;
  readonly name: string;
  readonly size: number;
  /** In bytes: what the server has. */
  readonly sent: number;
  readonly state: "sending" | "unreachable" | "refused" | "arrived";
  /** Why it was refused, and what would be right. */
  readonly problem: string | null;
}

interface Received {
  readonly received: number;
  readonly done: boolean;
}

interface QueueTerms {
  readonly attemptId: string;
  readonly onChange: (files: readonly PendingFile[]) => void;
  /** The server has all of it and has taken it. */
  readonly onArrived: (file: PendingFile) => void;
}

/** Refusals that hold for now only: signed out, too slow, too much at once. */
const NOT_NOW = new Set([401, 408, 429]);

/**
 * Brings files to the server in pieces, one file after another, going on where a lost connection or a reload broke off.
 * Until a file has arrived, the device keeps it.
 */
export class FileQueue {
  readonly #files = new Map<string, PendingFile & { readonly content: Blob }>();
  #store: Promise<DeviceStore | null> | undefined;
  #working = false;
  #failures = 0;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #stopped = false;

  constructor(private readonly terms: QueueTerms) {}

  get #db(): Promise<DeviceStore | null> {
    this.#store ??= openDeviceStore().catch(() => null);
    return this.#store;
  }

  /** Whether nothing waits to be sent. */
  get isDone(): boolean {
    return [...this.#files.values()].every(({ state }) => state === "refused" || state === "arrived");
  }

  /** Takes up what an earlier page left. */
  async open(): Promise<void> {
    const held = (await (await this.#db)?.getAllFromIndex("files", "attempt", this.terms.attemptId)) ?? [];
    for (const { id, slot, name, content } of held) this.#put(pending(id, slot, name, content));
    this.#changed();
    void this.#work();
  }

  async add(slot: number, file: File): Promise<string> {
    const id = crypto.randomUUID();
    const { attemptId } = this.terms;
    this.#put(pending(id, slot, file.name, file));
    this.#changed();
    // A full storage is no reason not to send it.
    await (await this.#db)
      ?.put("files", { id, attemptId, slot, name: file.name, content: file })
      .catch(() => {});
    void this.#work();
    return id;
  }

  /** Forgets a file: cancelled, refused and read, or arrived and put where it belongs. */
  forget(id: string): void {
    this.#files.delete(id);
    void this.#db.then((db) => db?.delete("files", id)).catch(() => {});
    this.#changed();
  }

  /** The connection may be back. */
  retry(): void {
    clearTimeout(this.#timer);
    void this.#work();
  }

  stop(): void {
    this.#stopped = true;
    clearTimeout(this.#timer);
  }

  #put(file: PendingFile & { readonly content: Blob }): void {
    this.#files.set(file.id, file);
  }

  #update(id: string, change: Partial<PendingFile>): void {
    const file = this.#files.get(id);
    if (!file) return;
    this.#put({ ...file, ...change });
    this.#changed();
  }

  #changed(): void {
    this.terms.onChange([...this.#files.values()].map(({ content: _, ...file }) => file));
  }

  async #work(): Promise<void> {
    if (this.#working) return;
    this.#working = true;
    try {
      for (;;) {
        const next = [...this.#files.values()].find(
          ({ state }) => state === "sending" || state === "unreachable",
        );
        if (!next || this.#stopped) return;
        if (!(await this.#send(next.id))) return;
      }
    } finally {
      this.#working = false;
    }
  }

  /** Sends one file to its end. Returns false when it has to be tried again later. */
  async #send(id: string): Promise<boolean> {
    try {
      // An empty piece asks how much is there already.
      let answer = await this.#piece(id, 0, 0);
      while (answer && !answer.done) {
        this.#failures = 0;
        this.#update(id, { sent: answer.received, state: "sending" });
        answer = await this.#piece(id, answer.received, answer.received + PIECE);
      }
      const file = this.#files.get(id);
      if (!file) return true;
      this.#update(id, { sent: file.size, state: "arrived" });
      void this.#db.then((db) => db?.delete("files", id)).catch(() => {});
      this.terms.onArrived({ ...file, sent: file.size, state: "arrived" });
      return true;
    } catch (error) {
      if (error instanceof Refusal && error.status < 500 && !NOT_NOW.has(error.status)) {
        this.#update(id, { state: "refused", problem: error.message });
        void this.#db.then((db) => db?.delete("files", id)).catch(() => {});
        return true;
      }
      this.#update(id, { state: "unreachable" });
      const pause = Math.min(LONGEST_PAUSE, FIRST_PAUSE * 2 ** this.#failures);
      this.#failures += 1;
      if (!this.#stopped) this.#timer = setTimeout(() => void this.#work(), pause);
      return false;
    }
  }

  async #piece(id: string, from: number, to: number): Promise<Received | null> {
    const file = this.#files.get(id);
    if (!file) return null;
    const { slot, name, size, content } = file;
    const terms = new URLSearchParams({ slot: String(slot), name, size: String(size), at: String(from) });
    const response = await fetch(`${filePath(this.terms.attemptId, id)}?${terms}`, {
      method: "PUT",
      body: content.slice(from, to),
      headers: { "content-type": "application/octet-stream" },
      signal: AbortSignal.timeout(60_000),
    });
    const answer = (await response.json().catch(() => null)) as (Received & { title?: string }) | null;
    if (!response.ok || !answer) {
      throw new Refusal(
        response.ok ? 502 : response.status,
        "file",
        answer?.title ?? t("keeping.file-queue.the-server-could-not-be-understood"),
      );
    }
    return answer;
  }
}

const pending = (id: string, slot: number, name: string, content: Blob) => ({
  id,
  slot,
  name,
  size: content.size,
  sent: 0,
  state: "sending" as const,
  problem: null,
  content,
});
