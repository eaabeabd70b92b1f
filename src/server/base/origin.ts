import { t } from "@/words/t";
import { Problem } from "./problems";

/** Unsafe requests are taken from our own pages only; browsers send Origin with every one of them. @throws Problem */
export function refuseForeign(origin: string | null | undefined, host: string | null | undefined): void {
  if (origin && host && URL.canParse(origin) && new URL(origin).host === host) return;
  throw new Problem(403, "foreign-origin", t("server.base.origin.this-request-did-not-come-from"));
}
