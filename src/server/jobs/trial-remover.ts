import { MINUTE } from "@/core/time/instants";
import { log } from "../base/log";
import { removeEndedTrials } from "../trials/begin-trial";
import { repeat } from "./repeat";

/** Starts removing trials that have ended; returns how to stop. */
export const startTrialRemover = () =>
  repeat("the remover of trials", MINUTE / 2, async () => {
    const count = await removeEndedTrials();
    if (count > 0) log.info({ count }, "trials removed");
    return false;
  });
