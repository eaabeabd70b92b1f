import type { Written } from "@/core/journal/merge";
import { type DeviceStore, type HeldEntry, type Holding, openDeviceStore } from "./device-store";
import { unlockLeft } from "./locked-store";

/**
 * The journal on the device: the newest entry of each slot, for each page that wrote. Writes in the order they are
 * asked for. Where the browser refuses storage it keeps nothing and says so.
 * @param subject what the entries belong to: an attempt's identifier
 * @param entryIn an entry with the fields of today, whatever an earlier version of the page wrote beside them
 */
export class Journal<E extends Written> {
  #opened: Promise<DeviceStore | null> | undefined;
  /** Whether the last write was kept; null until known. */
  keeps: boolean | null = null;

  constructor(
    private readonly subject: string,
    private readonly entryIn: (held: HeldEntry) => E,
  ) {}

  get #db(): Promise<DeviceStore | null> {
    this.#opened ??= openDeviceStore().then(
      (db) => {
        this.keeps = true;
        return db;
      },
      () => {
        this.keeps = false;
        return null;
      },
    );
    return this.#opened;
  }

  /** Everything that is held of it. */
  async read(): Promise<(E & Holding)[]> {
    // What its owner locked on this device when they signed out.
    await unlockLeft(this.subject).catch(() => {});
    const db = await this.#db;
    try {
      const held = db ? await db.getAllFromIndex("entries", "attempt", this.subject) : [];
      return held.map((each) => ({
        ...this.entryIn(each),
        attemptId: each.attemptId,
        acknowledged: each.acknowledged,
      }));
    } catch {
      // A storage that broke: what the server has is shown, and the desk goes on without it.
      this.keeps = false;
      return [];
    }
  }

  async write(entry: E): Promise<void> {
    const db = await this.#db;
    if (!db) return;
    try {
      const transaction = db.transaction("entries", "readwrite");
      void transaction.store
        .put({ ...entry, attemptId: this.subject, acknowledged: false } as HeldEntry)
        .catch(() => {});
      // At once: a page that is being left does not live to commit by itself.
      transaction.commit();
      await transaction.done;
      this.keeps = true;
    } catch {
      // A full or closed storage: the entry still goes to the server, and the desk says that this device keeps nothing.
      this.keeps = false;
    }
  }

  /** Notes that the server has this revision; a newer one written meanwhile stays to be sent. */
  async acknowledge(slot: number, device: string, revision: number): Promise<void> {
    const db = await this.#db;
    if (!db) return;
    try {
      const transaction = db.transaction("entries", "readwrite");
      const held = await transaction.store.get([this.subject, slot, device]);
      if (held?.revision === revision) await transaction.store.put({ ...held, acknowledged: true });
      await transaction.done;
    } catch {
      // Then it is sent once more after a reload, which the server takes as the same.
    }
  }

  async noteHandIn(pressedAt: number): Promise<void> {
    await (await this.#db)?.put("handIns", pressedAt, this.subject).catch(() => {});
  }

  /** When handing in was pressed, if it waits; else null. */
  async handInPressed(): Promise<number | null> {
    return (await (await this.#db)?.get("handIns", this.subject)) ?? null;
  }

  async forgetHandIn(): Promise<void> {
    await (await this.#db)?.delete("handIns", this.subject).catch(() => {});
  }

  /** Forgets what the server has acknowledged, once the attempt is handed in. */
  async forgetAcknowledged(): Promise<void> {
    const db = await this.#db;
    if (!db) return;
    await this.forgetHandIn();
    const transaction = db.transaction("entries", "readwrite");
    for (const held of await transaction.store.index("attempt").getAll(this.subject)) {
      if (held.acknowledged) await transaction.store.delete([held.attemptId, held.slot, held.device]);
    }
    await transaction.done;
  }
}
