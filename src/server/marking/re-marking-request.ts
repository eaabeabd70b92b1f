import { validate as isUuid } from "uuid";
import * as yup from "yup";
import type { Correction } from "@/core/kinds/correction";
import { exactNumber } from "@/core/kinds/shapes";
import { exact, written } from "@/core/numbers/exact";
import { said } from "@/core/said";
import { inputOf } from "../base/input";

const correctionShape = yup.lazy((change: { kind?: unknown } | undefined) => {
  const name = () => yup.string().strict().max(5_000).defined();
  const place = () => yup.number().strict().integer().min(0).max(200).required();
  switch (change?.kind) {
    case "credit":
      return yup
        .object({
          kind: yup.string().strict().oneOf(["credit"]).required(),
          credit: exactNumber(0, 1).required(),
          groups: yup
            .array()
            .of(yup.object({ part: place(), identity: name() }).strict().noUnknown().required())
            .min(1, said("server.marking.re-marking.pick-the-answers"))
            .max(500)
            .required(said("server.marking.re-marking.pick-the-answers")),
        })
        .strict()
        .noUnknown();
    case "key":
      return yup
        .object({
          kind: yup.string().strict().oneOf(["key"]).required(),
          part: place(),
          identity: name(),
          written: name(),
        })
        .strict()
        .noUnknown();
    case "drop":
      return yup
        .object({
          kind: yup.string().strict().oneOf(["drop"]).required(),
          dropped: yup.string().strict().oneOf(["marks-to-all", "out-of-the-maximum"]).required(),
        })
        .strict()
        .noUnknown();
    case "as-now":
      return yup
        .object({ kind: yup.string().strict().oneOf(["as-now"]).required() })
        .strict()
        .noUnknown();
    default:
      return yup
        .object({
          kind: yup
            .string()
            .strict()
            .oneOf(["undo"], said("server.marking.re-marking.the-change-must-be"))
            .required(said("server.marking.re-marking.the-change-must-be")),
          undoes: yup
            .string()
            .strict()
            .test("uuid", said("server.marking.share-pile.this-is-not-an-id"), (id) => isUuid(id ?? ""))
            .required(),
        })
        .strict()
        .noUnknown();
  }
});

const body = yup
  .object({
    question: yup.string().strict().max(40).required(),
    change: correctionShape,
    reason: yup.string().strict().max(500).default(""),
    /** What was shown beforehand, as it was told: absent, nothing is done yet. */
    expects: yup.string().strict().length(64),
  })
  .strict()
  .noUnknown();

/** What is asked: which question, and how its marking changes. */
export interface Wanted {
  readonly question: string;
  readonly correction: Correction;
  readonly undoes: string | null;
  readonly reason: string;
  readonly expects: string | null;
}

/** @throws Problem with what would be right */
export function wantedIn(input: unknown): Wanted {
  const { question, change: asked, reason: given = "", expects } = inputOf(body, input);
  const reason = given.trim();
  const change = asked as {
    kind: string;
    credit?: number | string;
    groups?: { part: number; identity: string }[];
  } & Record<string, unknown>;
  const common = { question, reason, expects: expects ?? null, undoes: null };
  if (change.kind === "credit") {
    const credit = written(exact(change.credit ?? 0));
    const grants = (change.groups ?? []).map(({ part, identity }) => ({ part, identity, credit, reason }));
    return { ...common, correction: { kind: "credit", grants } };
  }
  if (change.kind === "undo")
    return { ...common, correction: { kind: "undo" }, undoes: String(change.undoes) };
  return { ...common, correction: change as unknown as Correction };
}
