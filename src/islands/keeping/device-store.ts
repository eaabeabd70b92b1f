import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { JournalEntry } from "@/core/journal/merge";

/** An entry as the device keeps it: until the server has acknowledged it, it is sent again. */
export interface KeptEntry extends JournalEntry {
  readonly attemptId: string;
  readonly acknowledged: boolean;
}

/** A file that is on its way to the server, whole, so that a reload does not lose it. */
export interface KeptFile {
  readonly id: string;
  readonly attemptId: string;
  readonly slot: number;
  readonly name: string;
  readonly content: Blob;
}

interface DeviceSchema extends DBSchema {
  entries: { key: [string, number, string]; value: KeptEntry; indexes: { attempt: string } };
  /** When a hand-in was pressed that waits for the connection, by attempt. */
  handIns: { key: string; value: number };
  files: { key: string; value: KeptFile; indexes: { attempt: string } };
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
