import * as yup from "yup";
import type { Viewer } from "../access/viewer";
import { openAttempt } from "../attempts/open-attempt";
import { handInByStudent } from "../attempts/settle";
import { now } from "../base/clock";
import { inputOf } from "../base/input";
import { slotShape } from "./slot-shape";

const body = yup
  .object({
    pressedAt: yup
      .number()
      .strict()
      .integer()
      .min(0)
      .max(Date.UTC(2100, 0, 1)),
    seen: yup
      .array(
        yup
          .object({
            slot: slotShape().required(),
            device: yup.string().strict().uuid().nullable().defined(),
            revision: yup.number().strict().integer().min(1).nullable().defined(),
          })
          .strict()
          .noUnknown(),
      )
      .max(1000),
  })
  .strict()
  .noUnknown();

/** A student hands in. Pressing twice, or after the clock did it, is not an error: the attempt is handed in. */
export async function handInAttempt(viewer: Viewer, attemptId: string, input: unknown): Promise<void> {
  const { pressedAt, seen } = inputOf(body, input);
  await openAttempt(viewer, attemptId);
  const pressed = pressedAt === undefined ? null : Math.min(pressedAt, now());
  await handInByStudent(attemptId, viewer.id, { pressedAt: pressed, seen: seen ?? null });
}
