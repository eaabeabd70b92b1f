import { onBench } from "./lib/bench.mjs";
import { runLoad } from "./lib/load-run.mjs";
import { main, say } from "./lib/steps.mjs";

/**
 * `npm run load`: two hundred students take a quiz of twenty questions at once for three minutes, on a database as safe
 * as in use, and a report of what became of their answers. `--students=`, `--seconds=` and `--pause=` (milliseconds
 * between two writings of one student) change it.
 */
const terms = { students: 200, seconds: 180, pause: 2_000 };
for (const arg of process.argv.slice(2)) {
  const [, name, value] = /^--(students|seconds|pause)=(\d+)$/.exec(arg) ?? [];
  if (!name)
    throw new Error(`${arg} is not known: --students=200, --seconds=180 and --pause=2000 are there to set.`);
  terms[name] = Number(value);
}

await main(() =>
  onBench(
    async ({ url, databaseUrl }) => {
      const { default: postgres } = await import("postgres");
      const sql = postgres(databaseUrl, { max: 2 });
      const found = await runLoad({ url, sql, ...terms, say });
      await sql.end();
      const ms = (time) => `${time.toFixed(0)} ms`;
      say(`
students              ${found.students}, all at their desks within ${ms(found.startedWithin)} (15 ms for each are asked)
saves meanwhile       ${found.whileStarting.count}; half acknowledged within ${ms(found.whileStarting.half)}, 95 % within ${ms(found.whileStarting.most)} (150 ms are asked), all within ${ms(found.whileStarting.all)}
saves acknowledged    ${found.acknowledged} (${(found.acknowledged / terms.seconds).toFixed(0)}/s); refused after the end: ${found.refused}; failed: ${found.failed}
until acknowledged    half within ${ms(found.half)}, 95 % within ${ms(found.most)} (150 ms are asked), all within ${ms(found.all)}
last answers checked  ${found.checked}; lost: ${found.lost}
kept in the log       ${found.logged}
handed in             ${found.handedIn} of ${found.students}, ${found.byClock} by the clock, all of them ${found.latest.toFixed(1)} s after the end (10 s are asked)
`);
      const isWell =
        found.lost === 0 &&
        found.failed === 0 &&
        found.handedIn === found.students &&
        found.latest <= 10 &&
        found.startedWithin <= Math.max(1_000, 15 * found.students) &&
        found.whileStarting.most <= 150 &&
        found.most <= 150;
      if (!isWell) process.exitCode = 1;
    },
    { PROCESSES: process.env.PROCESSES, SHIZUKA_BUDGET: "1" },
  ),
);
