import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import { ask, Refusal } from "@/ui/requests";
import { type DeviceStore, type HeldEntry, type HeldFile, openDeviceStore } from "./device-store";

/** Something of an attempt that only its owner's session can open again. */
interface Locked {
  readonly attemptId: string;
  /** Whose key opens it: a name of the key that tells nothing of it. */
  readonly keyName: string;
  readonly iv: Uint8Array<ArrayBuffer>;
  readonly sealed: ArrayBuffer;
}

interface LockedSchema extends DBSchema {
  locked: { key: number; value: Locked; indexes: { attempt: string } };
}

/** What lies in a lock: an entry of the journal, or a file with its content. */
type Content =
  | { readonly entry: HeldEntry }
  | { readonly file: Omit<HeldFile, "content">; readonly content: number[] };

/** What the device keeps of attempts that the server does not have yet. */
export interface Leftovers {
  /** Answers that are not on the server, counted by question. */
  readonly answers: number;
  readonly files: number;
  /** Those that are of whoever is signed in: what others left here unsent is theirs, and is not touched. */
  readonly attempts: readonly string[];
}

const openLocked = (): Promise<IDBPDatabase<LockedSchema>> =>
  openDB<LockedSchema>("shizuka-locked", 1, {
    upgrade(db) {
      db.createObjectStore("locked", { autoIncrement: true }).createIndex("attempt", "attemptId");
    },
  });

/** The key of whoever is signed in, for what is left on a device; the server makes it, and the device never stores it. */
async function ownKey(): Promise<{ readonly name: string; readonly key: CryptoKey }> {
  const { name, key } = await ask<{ name: string; key: string }>("/api/device-key", { limit: 10_000 });
  const bytes = Uint8Array.from(atob(key), (letter) => letter.charCodeAt(0));
  return { name, key: await crypto.subtle.importKey("raw", bytes, "AES-GCM", false, ["encrypt", "decrypt"]) };
}

/** Where to ask whether something is one's own: an attempt, a paper that one marks, or a draft that one writes. */
function addressOf(subject: string): string {
  const [, draft] = /^draft (\S+)$/.exec(subject) ?? [];
  if (draft) return `/api/drafts/${draft}/states`;
  const [, quiz, paper] = /^marking (\S+) (\d+)$/.exec(subject) ?? [];
  return quiz && paper ? `/api/quizzes/${quiz}/papers/${paper}/whole` : `/api/attempts/${subject}`;
}

/** Whether something is somebody else's: only then there is nothing of that name for whoever is signed in. */
async function isOthers(attemptId: string): Promise<boolean> {
  try {
    await ask(addressOf(attemptId), { limit: 8_000 });
    return false;
  } catch (error) {
    return error instanceof Refusal && error.status === 404;
  }
}

/** Forgets what the server has, of every attempt; returns what it does not have of whoever is signed in. */
export async function leftOnDevice(): Promise<Leftovers> {
  const db = await openDeviceStore();
  try {
    const transaction = db.transaction("entries", "readwrite");
    const all = await transaction.store.getAll();
    for (const { attemptId, slot, device, acknowledged } of all) {
      if (acknowledged) await transaction.store.delete([attemptId, slot, device]);
    }
    await transaction.done;
    const left = all.filter(({ acknowledged }) => !acknowledged);
    const files = await db.getAll("files");
    const attempts: string[] = [];
    for (const id of new Set([...left, ...files].map(({ attemptId }) => attemptId))) {
      if (!(await isOthers(id))) attempts.push(id);
    }
    const own = left.filter(({ attemptId }) => attempts.includes(attemptId));
    return {
      answers: new Set(own.map(({ attemptId, slot }) => `${attemptId} ${slot}`)).size,
      files: files.filter(({ attemptId }) => attempts.includes(attemptId)).length,
      attempts,
    };
  } finally {
    db.close();
  }
}

/** Forgets what is left of some attempts, by their owner's word. */
export async function forgetLeft(attempts: readonly string[]): Promise<void> {
  const db = await openDeviceStore();
  try {
    await forget(db, attempts);
  } finally {
    db.close();
  }
}

async function forget(db: DeviceStore, attempts: readonly string[]): Promise<void> {
  const transaction = db.transaction(["entries", "files", "handIns"], "readwrite");
  for (const id of attempts) {
    for (const store of ["entries", "files"] as const) {
      for (const key of await transaction.objectStore(store).index("attempt").getAllKeys(id)) {
        await transaction.objectStore(store).delete(key as never);
      }
    }
    await transaction.objectStore("handIns").delete(id);
  }
  await transaction.done;
}

/** Locks what is left of some attempts: only a session of the same person opens it. Rejects, with nothing changed, without one. */
export async function lockLeft(attempts: readonly string[]): Promise<void> {
  const { name, key } = await ownKey();
  const db = await openDeviceStore();
  const safe = await openLocked();
  try {
    const locked: Locked[] = [];
    const lock = async (attemptId: string, content: Content) => {
      const iv = crypto.getRandomValues(new Uint8Array(12));
      const plain = new TextEncoder().encode(JSON.stringify(content));
      const sealed = await crypto.subtle.encrypt({ name: "AES-GCM", iv }, key, plain);
      locked.push({ attemptId, keyName: name, iv, sealed });
    };
    for (const id of attempts) {
      for (const entry of await db.getAllFromIndex("entries", "attempt", id)) await lock(id, { entry });
      for (const { content, ...file } of await db.getAllFromIndex("files", "attempt", id)) {
        await lock(id, { file, content: [...new Uint8Array(await content.arrayBuffer())] });
      }
    }
    const transaction = safe.transaction("locked", "readwrite");
    for (const each of locked) await transaction.store.add(each);
    await transaction.done;
    // Only once all of it lies in the lock.
    await forget(db, attempts);
  } finally {
    db.close();
    safe.close();
  }
}

/** Puts what was locked of an attempt back into the journal, for its owner; does nothing where there is nothing. */
export async function unlockLeft(attemptId: string): Promise<void> {
  const safe = await openLocked();
  try {
    const keys = await safe.getAllKeysFromIndex("locked", "attempt", attemptId);
    if (keys.length === 0) return;
    const own = await ownKey();
    const db = await openDeviceStore();
    try {
      for (const key of keys) {
        const held = await safe.get("locked", key);
        if (held?.keyName !== own.name) continue;
        const plain = await crypto.subtle.decrypt({ name: "AES-GCM", iv: held.iv }, own.key, held.sealed);
        const content = JSON.parse(new TextDecoder().decode(plain)) as Content;
        if ("entry" in content) {
          const { slot, device, revision } = content.entry;
          const there = await db.get("entries", [attemptId, slot, device]);
          if (!there || there.revision < revision) await db.put("entries", content.entry);
        } else {
          await db.put("files", { ...content.file, content: new Blob([new Uint8Array(content.content)]) });
        }
        await safe.delete("locked", key);
      }
    } finally {
      db.close();
    }
  } finally {
    safe.close();
  }
}
