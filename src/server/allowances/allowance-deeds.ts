import { notFound } from "../base/problems";
import {
  type AllowanceDeed,
  giveAllowance,
  lookOverAllowance,
  lookOverTakingBack,
  takeAllowanceBack,
} from "./give-allowance";

/** What can be asked for, by the name in its address: each deed, and what it would do. */
const DEEDS: ReadonlyMap<string, AllowanceDeed> = new Map([
  ["give", giveAllowance],
  ["give-effect", lookOverAllowance],
  ["take-back", takeAllowanceBack],
  ["take-back-effect", lookOverTakingBack],
]);

/** A deed by its name. @throws Problem "not found" */
export function allowanceDeed(name: string | undefined): AllowanceDeed {
  const deed = DEEDS.get(name ?? "");
  if (!deed) throw notFound();
  return deed;
}
