import { HOUR } from "@/core/time/instants";
import { removeWhatIsOver } from "../retention/remove";
import { forgetEnded } from "../sign-in/forget-ended";
import { repeat } from "./repeat";

/** Starts removing what is no longer kept; returns how to stop. */
export const startTidier = () =>
  repeat("the tidier", HOUR, async () => {
    await forgetEnded();
    return removeWhatIsOver();
  });
