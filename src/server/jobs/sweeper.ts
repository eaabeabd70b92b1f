import { SECOND } from "@/core/time/instants";
import { sweep } from "../attempts/settle";
import { log } from "../base/log";
import { repeat } from "./repeat";

/** A class that ends at once is handed in by so many at a time. */
const BATCH = 50;

/** Starts handing in attempts whose time is up, twice a second; returns how to stop. */
export const startSweeper = () =>
  repeat("the sweeper", SECOND / 2, async () => {
    const count = await sweep(BATCH);
    if (count > 0) log.info({ count }, "handed in by the clock");
    return count === BATCH;
  });
