import * as yup from "yup";
import { said } from "@/core/said";

/** Whether a text is an instant such as 2026-11-25T23:59:00Z. */
export const isMoment = (text: string): boolean =>
  /^\d{4}-\d{2}-\d{2}T/.test(text) && !Number.isNaN(Date.parse(text));

/** A moment of a window; null: none. @param what by which name it is sent */
export const moment = (what: string) =>
  yup
    .string()
    .strict()
    .nullable()
    .test(
      "instant",
      said("server.quizzes.set-times.must-be-an-instant-such-as", { what }),
      (text) => text == null || isMoment(text),
    );
