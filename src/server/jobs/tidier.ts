import { HOUR } from "@/core/time/instants";
import { now } from "../clock";
import { removeWhatIsOver } from "../retention/remove";
import { forgetOldTries } from "../sign-in/try-pace";
import { repeat } from "./repeat";

/** Starts removing what is no longer kept; answers how to stop. */
export const startTidier = () =>
  repeat("the tidier", HOUR, async () => {
    await forgetOldTries(now());
    return removeWhatIsOver();
  });
