import { randomBytes } from "node:crypto";

/** A name for one request, in its answer and in the log. */
export const newReference = (): string => randomBytes(5).toString("hex");
