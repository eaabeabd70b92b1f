import { readFileSync } from "node:fs";
import { expect, House, test } from "../support/house";

/** The processes that answer requests: the children of the one that was started. */
const workersOf = ({ pid }: House): Set<number> =>
  new Set(
    readFileSync(`/proc/${pid}/task/${pid}/children`, "utf8").trim().split(/\s+/).filter(Boolean).map(Number),
  );

const isAlive = (pid: number) => {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
};

test("a server of several processes goes on when one of them dies, replaces it, and ends whole", async ({
  request,
}) => {
  const house = await House.open({ PROCESSES: "2" });
  let closed = false;
  try {
    const before = workersOf(house);
    expect(before.size).toBe(2);
    const student = await house.caller(request, "hana.drummond");
    const [victim] = before;
    process.kill(victim ?? 0, "SIGKILL");
    await expect.poll(() => [...before].filter(isAlive).length).toBe(1);
    // A connection that died with its process is asked again, as browsers do.
    await expect(async () => expect((await student.get("/today")).status).toBe(200)).toPass();
    await expect.poll(() => [...workersOf(house)].filter((pid) => !before.has(pid)).length).toBe(1);
    for (let i = 0; i < 6; i += 1) {
      await expect(async () => expect((await student.get("/today")).status).toBe(200)).toPass();
    }
    const last = workersOf(house);
    await house.close();
    closed = true;
    await expect.poll(() => [...last].filter(isAlive)).toEqual([]);
  } finally {
    if (!closed) await house.close();
  }
});
