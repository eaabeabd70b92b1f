import { validate as isUuid } from "uuid";
import * as yup from "yup";
import { said } from "@/core/said";
import { hasWords } from "../base/input";
import { isMoment, moment } from "../quizzes/moments";

/** More students than any course would choose one by one. */
const MOST_PEOPLE = 2_000;

const id = () =>
  yup
    .string()
    .strict()
    .test(
      "uuid",
      said("server.allowances.allowance-shape.not-an-id"),
      (text) => text === undefined || isUuid(text),
    );

/** A due time or a closing: an instant, "none" for without one, null for as everyone. */
const end = (what: string) =>
  yup
    .string()
    .strict()
    .nullable()
    .default(null)
    .test(
      "end",
      said("server.allowances.allowance-shape.must-be-an-instant-or-none", { what }),
      (text) => text == null || text === "none" || isMoment(text),
    );

const reason = () =>
  yup
    .string()
    .strict()
    .test("words", said("server.quizzes.set-times.say-why-the-students-read-it"), hasWords)
    .max(500);

/** What is given to whom; what is not named is as everyone. */
export const allowanceShape = yup
  .object({
    /** Students, or one section. */
    personIds: yup
      .array()
      .of(id().required())
      .min(1, said("server.quizzes.set-times.choose-someone"))
      .max(MOST_PEOPLE)
      .default(undefined),
    sectionId: id(),
    factor: yup
      .number()
      .strict()
      .nullable()
      .min(1, said("server.allowances.allowance-shape.factor-from-1"))
      .max(10, said("server.allowances.allowance-shape.factor-to-10")),
    extraMinutes: yup.number().strict().nullable().min(0).max(10_080),
    extraAttempts: yup.number().strict().nullable().integer().min(0).max(100),
    opens: moment("opens"),
    due: end("due"),
    closes: end("closes"),
    daysLater: yup.number().strict().nullable().integer().min(1).max(366),
    reason: reason(),
    /** The state that was looked over; absent: whatever it is. */
    expects: yup.string().strict().max(100),
  })
  .strict()
  .noUnknown();

/** Which allowance is taken back, and why. */
export const takeBackShape = yup
  .object({
    id: id().required(said("server.allowances.allowance-shape.not-an-id")),
    reason: reason(),
    expects: yup.string().strict().max(100),
  })
  .strict()
  .noUnknown();
