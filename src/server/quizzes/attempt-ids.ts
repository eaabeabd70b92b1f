import { validate as isUuid } from "uuid";
import * as yup from "yup";
import { said } from "@/core/said";

/** More attempts than any quiz has that somebody would choose one by one. */
const MOST = 2_000;

/** The attempts that something is done to; absent: all that it can be done to. */
export const attemptIdsShape = () =>
  yup
    .array()
    .of(
      yup
        .string()
        .strict()
        .test("uuid", said("server.quizzes.extend-running.attemptid-is-not-the-id-of"), (id) =>
          isUuid(id ?? ""),
        )
        .required(),
    )
    .min(1, said("server.quizzes.attempt-ids.choose-at-least-one"))
    .max(MOST);
