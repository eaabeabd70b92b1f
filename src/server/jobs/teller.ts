import { SECOND } from "@/core/time/instants";
import { repeat } from "./repeat";
import { tellOpened } from "./tell-opened";
import { tellShown } from "./tell-shown";

/** Starts telling students what has opened and what the clock has come to show; returns how to stop. */
export const startTeller = () =>
  repeat("the teller", 30 * SECOND, async () => {
    await tellOpened();
    await tellShown();
    return false;
  });
