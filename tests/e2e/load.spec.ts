import { runLoad } from "../../tools/lib/load-run.mjs";
import { expect, House, test } from "../support/house";

// The long form, with its report, is `npm run load`.
test("forty students at once: what was acknowledged is in the database, and each attempt is handed in by its deadline and ten seconds", async () => {
  test.setTimeout(120_000);
  const house = await House.open();
  try {
    const found = await runLoad({ url: house.url, sql: house.sql, students: 40, seconds: 15, pause: 1_500 });
    // Some for each of them; how many in the time says little beside browsers at work.
    expect(found.acknowledged).toBeGreaterThan(60);
    expect(found).toMatchObject({ failed: 0, lost: 0, handedIn: 40 });
    expect(found.checked).toBeGreaterThan(60);
    expect(found.logged).toBeGreaterThanOrEqual(found.acknowledged);
    // Two in three let the time run out.
    expect(found.byClock).toBeGreaterThanOrEqual(26);
    expect(found.latest).toBeLessThan(10);
    expect(found.events).toBeGreaterThanOrEqual(40);
    // How long it takes says little beside browsers at work; the long form asks for it.
    test
      .info()
      .annotations.push({ type: "95 % acknowledged within", description: `${found.most.toFixed(0)} ms` });
    expect(found.most).toBeLessThan(5_000);
  } finally {
    await house.close();
  }
});
