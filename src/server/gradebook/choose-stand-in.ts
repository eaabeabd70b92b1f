import { validate as isUuid } from "uuid";
import * as yup from "yup";
import { said } from "@/core/said";
import { inTransaction } from "@/data/database";
import { t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { setStandIn } from "../attempts/stand-ins";
import { inputOf } from "../base/input";
import { badInput } from "../base/problems";
import { gradebookWork } from "./gradebook-work";

const form = yup.object({
  item: yup
    .string()
    .test("uuid", said("server.gradebook.choose-stand-in.item-is-not-a-piece-of"), (id) => isUuid(id ?? ""))
    .required(said("server.gradebook.choose-stand-in.item-is-missing-the-work-that")),
  choice: yup
    .string()
    .oneOf(["stand-in", "itself"], said("server.gradebook.choose-stand-in.choice-must-be-stand-in-or"))
    .required(said("server.gradebook.choose-stand-in.choice-is-missing-stand-in-or")),
});

/** A student chooses that other work stands in for a piece of work, where the instructor allows it, or takes that back. */
export async function chooseStandIn(viewer: Viewer, slug: string, input: unknown): Promise<void> {
  const { item, choice } = inputOf(form, input, "address");
  const { categories } = await gradebookWork(viewer, slug);
  const entry = categories.flatMap(({ entries }) => entries).find(({ row }) => row.id === item);
  if (!entry?.row.standIn)
    throw badInput(t("server.gradebook.choose-stand-in.nothing-may-stand-in-for-this"));
  const chosen = choice === "stand-in";
  await inTransaction((tx) =>
    setStandIn(tx, { itemId: item, personId: viewer.id, chosen, declaredIn: null }),
  );
}
