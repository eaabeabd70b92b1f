import { SECOND } from "@/core/time/instants";
import { sweep } from "../attempts/settle";
import { log } from "../log";
import { repeat } from "./repeat";

const BATCH = 50;

/** Starts handing in attempts whose time is up, once a second; answers how to stop. */
export const startSweeper = () =>
  repeat("the sweeper", SECOND, async () => {
    const count = await sweep(BATCH);
    if (count > 0) log.info({ count }, "handed in by the clock");
    return count === BATCH;
  });
