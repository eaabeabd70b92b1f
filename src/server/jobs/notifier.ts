import { SECOND } from "@/core/time/instants";
import { notifyOpened } from "./notify-opened";
import { notifyShown } from "./notify-shown";
import { repeat } from "./repeat";

/** Starts telling students what has opened and what the clock has come to show; returns how to stop. */
export const startNotifier = () =>
  repeat("the teller", 30 * SECOND, async () => {
    await notifyOpened();
    await notifyShown();
    return false;
  });
