import { SECOND } from "@/core/time/instants";
import { tellShown } from "../notices/tell-shown";
import { repeat } from "./repeat";

/** Starts telling students of what the clock has come to show; answers how to stop. */
export const startTeller = () =>
  repeat("the teller", 30 * SECOND, async () => {
    await tellShown();
    return false;
  });
