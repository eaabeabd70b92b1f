import type { Said } from "../../src/core/said";
import { speakerOf } from "../../src/words/languages";

/** What is meant, as an English reader gets it. */
export const english = (said: Said): string => speakerOf("en").saySaid(said);
