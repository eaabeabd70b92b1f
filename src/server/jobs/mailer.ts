import { SECOND } from "@/core/time/instants";
import { sendWaiting } from "../mail/send-waiting";
import { repeat } from "./repeat";

const BATCH = 20;

/** Starts sending notices by mail, soon after they were made; returns how to stop. */
export const startMailer = () =>
  repeat("the mailer", 2 * SECOND, async () => (await sendWaiting(BATCH)) === BATCH);
