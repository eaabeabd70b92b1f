import "fake-indexeddb/auto";
import { IDBFactory } from "fake-indexeddb";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { FileQueue, type PendingFile } from "./file-queue";

const PIECE = 256 * 1024;

/** A server that takes pieces as ours does; `cut` makes it unreachable, `refuse` makes it refuse the last piece. */
function server() {
  const files = new Map<string, number>();
  const state = {
    cut: false,
    cutAfter: Number.POSITIVE_INFINITY,
    refuse: false,
    pieces: [] as { at: number; bytes: number }[],
  };
  vi.stubGlobal("fetch", async (address: string, { body }: { body: Blob }) => {
    if (state.cut || state.pieces.length >= state.cutAfter) throw new TypeError("Failed to fetch");
    const url = new URL(address, "http://desk.example");
    const id = url.pathname.split("/").at(-1) ?? "";
    const [at, size] = [Number(url.searchParams.get("at")), Number(url.searchParams.get("size"))];
    state.pieces.push({ at, bytes: body.size });
    let received = files.get(id) ?? 0;
    if (at === received) received += body.size;
    files.set(id, received);
    if (received === size && state.refuse) {
      const problem = { type: "urn:shizuka:problem:bad-input", title: "It is not a picture.", status: 422 };
      return new Response(JSON.stringify(problem), { status: 422 });
    }
    return new Response(JSON.stringify({ received, done: received === size, type: null }));
  });
  return state;
}

function queue(attemptId = "a") {
  const arrived: PendingFile[] = [];
  let files: readonly PendingFile[] = [];
  const made = new FileQueue({
    attemptId,
    onChange: (now) => {
      files = now;
    },
    onArrived: (file) => arrived.push(file),
  });
  return { made, arrived, files: () => files };
}

const file = (name: string, size: number) => new File([new Uint8Array(size)], name);

beforeEach(() => {
  vi.stubGlobal("indexedDB", new IDBFactory());
  vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

test("a file goes in pieces and arrives once", async () => {
  const { pieces } = server();
  const { made, arrived } = queue();
  await made.add(3, file("page.png", 2.5 * PIECE));
  await vi.waitFor(() => expect(arrived).toHaveLength(1));
  expect(pieces.map(({ at }) => at)).toEqual([0, 0, PIECE, 2 * PIECE]);
  expect(arrived[0]).toMatchObject({ slot: 3, name: "page.png", sent: 2.5 * PIECE, state: "arrived" });
  expect(made.isDone).toBe(true);
});

test("after a lost connection it goes on where it broke off, in the same page or in a later one", async () => {
  const state = server();
  state.cutAfter = 3;
  const first = queue();
  await first.made.add(3, file("page.png", 3 * PIECE));
  await vi.waitFor(() => expect(first.files()[0]?.state).toBe("unreachable"));
  expect(first.made.isDone).toBe(false);
  first.made.stop();
  const bytes = () => state.pieces.reduce((sum, piece) => sum + piece.bytes, 0);
  expect(bytes()).toBe(2 * PIECE);

  state.cutAfter = Number.POSITIVE_INFINITY;
  const second = queue();
  await second.made.open();
  await vi.waitFor(() => expect(second.arrived).toHaveLength(1));
  expect(bytes()).toBe(3 * PIECE);
  // Nothing is kept of what has arrived, nor seen of another attempt.
  const third = queue();
  await third.made.open();
  expect(third.files()).toEqual([]);
});

test("what the server refuses is said with its sentence and kept no longer; the next file goes on", async () => {
  const state = server();
  state.refuse = true;
  const { made, files, arrived } = queue();
  await made.add(3, file("program.png", 10));
  await vi.waitFor(() =>
    expect(files()[0]).toMatchObject({ state: "refused", problem: "It is not a picture." }),
  );
  expect(made.isDone).toBe(true);
  state.refuse = false;
  const id = await made.add(3, file("page.png", 10));
  await vi.waitFor(() => expect(arrived.map((each) => each.id)).toEqual([id]));
});

test("files of another attempt are not taken up", async () => {
  const state = server();
  state.cut = true;
  const first = queue("a");
  await first.made.add(1, file("page.png", 10));
  first.made.stop();
  const other = queue("b");
  await other.made.open();
  expect(other.files()).toEqual([]);
});
