import { validate as isUuid } from "uuid";
import * as yup from "yup";
import { inTransaction } from "@/data/database";
import { inputOf } from "../input";
import { badInput } from "../problems";
import type { Viewer } from "../viewer";
import { gradebookWork } from "./gradebook-work";
import { setStandIn } from "./stand-ins";

const form = yup.object({
  item: yup
    .string()
    .test("uuid", "item is not a piece of work.", (id) => isUuid(id ?? ""))
    .required("item is missing: the work that is replaced."),
  choice: yup
    .string()
    .oneOf(["stand-in", "itself"], "choice must be stand-in or itself.")
    .required("choice is missing: stand-in or itself."),
});

/** A student chooses that other work stands in for a piece of work, where the instructor allows it, or takes that back. */
export async function chooseStandIn(viewer: Viewer, slug: string, input: unknown): Promise<void> {
  const { item, choice } = inputOf(form, input, "address");
  const { categories } = await gradebookWork(viewer, slug);
  const entry = categories.flatMap(({ entries }) => entries).find(({ row }) => row.id === item);
  if (!entry?.row.standIn) throw badInput("Nothing may stand in for this piece of work.");
  const chosen = choice === "stand-in";
  await inTransaction((tx) =>
    setStandIn(tx, { itemId: item, personId: viewer.id, chosen, declaredIn: null }),
  );
}
