import { resolve } from "node:path";
import { databaseToUse, restore } from "./lib/dumps.mjs";
import { main, Stop, say } from "./lib/steps.mjs";

/** `npm run restore -- FILE [--over]`: fills an empty database from a backup, or with `--over` replaces what is there. */
await main(async () => {
  const args = process.argv.slice(2);
  const [file] = args.filter((each) => each !== "--over");
  if (!file) throw new Stop("Say from where: npm run restore -- college-2026-11-26.dump");
  await restore(databaseToUse(), resolve(file), { over: args.includes("--over") });
  say("Restored. Start the server: it brings the database to its own version, if the backup is older.");
});
