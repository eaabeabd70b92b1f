import * as yup from "yup";
import { said } from "@/core/said";

/** A day, "2026-11-30"; null: none. */
export const dayShape = () =>
  yup
    .string()
    .strict()
    .nullable()
    .default(null)
    .test(
      "day",
      said("server.course.write-plan.not-a-day"),
      (text) => text == null || (/^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(Date.parse(text))),
    );
