import { resolve } from "node:path";
import { backUp, databaseToUse } from "./lib/dumps.mjs";
import { main, Stop, say } from "./lib/steps.mjs";

/** `npm run backup -- FILE`: saves the whole college into one file, with PostgreSQL's own tools. */
await main(async () => {
  const [file] = process.argv.slice(2);
  if (!file) throw new Stop("Say where to: npm run backup -- college-2026-11-26.dump");
  await backUp(databaseToUse(), resolve(file));
  say(`Saved to ${file}. Keep the secret (SHIZUKA_SECRET) too, in another place: second factors need it.`);
});
