import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { Written } from "@/core/journal/merge";

/** How the device holds an entry: until the server has acknowledged it, it is sent again. */
export interface Holding {
  /** What the entry belongs to. */
  readonly attemptId: string;
  readonly acknowledged: boolean;
}

/** An entry as the device holds it, with whatever fields it had when it was written. */
export type HeldEntry = Written & Holding & Readonly<Record<string, unknown>>;

/** A file that is on its way to the server, whole, so that a reload does not lose it. */
export interface HeldFile {
  readonly id: string;
  readonly attemptId: string;
  readonly slot: number;
  readonly name: string;
  readonly content: Blob;
}

interface DeviceSchema extends DBSchema {
  entries: { key: [string, number, string]; value: HeldEntry; indexes: { attempt: string } };
  /** When a hand-in was pressed that waits for the connection, by attempt. */
  handIns: { key: string; value: number };
  files: { key: string; value: HeldFile; indexes: { attempt: string } };
}

export type DeviceStore = IDBPDatabase<DeviceSchema>;

/** What the desk keeps on the device. Rejects where the browser refuses storage, however it does that. */
export const openDeviceStore = async (): Promise<DeviceStore> =>
  openDB<DeviceSchema>("shizuka-journal", 2, {
    upgrade(db, from) {
      db.createObjectStore("handIns");
      db.createObjectStore("files", { keyPath: "id" }).createIndex("attempt", "attemptId");
      if (from >= 1) return;
      const entries = db.createObjectStore("entries", { keyPath: ["attemptId", "slot", "device"] });
      entries.createIndex("attempt", "attemptId");
    },
  });

/** Whether this device can keep answers by itself. */
export async function canKeepAnswers(): Promise<boolean> {
  try {
    (await openDeviceStore()).close();
    return true;
  } catch {
    return false;
  }
}
