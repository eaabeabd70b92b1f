import type { TimesEffect } from "@/core/allowances/times-view";
import type { Viewer } from "../access/viewer";
import { notFound } from "../base/problems";
import type { AllowanceFor } from "./allowance-scope";
import { giveAllowance, lookOverAllowance, lookOverTakingBack, takeAllowanceBack } from "./give-allowance";

type Deed = (viewer: Viewer, what: AllowanceFor, input: unknown) => Promise<TimesEffect>;

/** What can be asked for, by the name in its address: each deed, and what it would do. */
const DEEDS: ReadonlyMap<string, Deed> = new Map([
  ["give", giveAllowance],
  ["give-effect", lookOverAllowance],
  ["take-back", takeAllowanceBack],
  ["take-back-effect", lookOverTakingBack],
]);

/** A deed by its name. @throws Problem "not found" */
export function allowanceDeed(name: string | undefined): Deed {
  const deed = DEEDS.get(name ?? "");
  if (!deed) throw notFound();
  return deed;
}
