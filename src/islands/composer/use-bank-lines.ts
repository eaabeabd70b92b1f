import { useEffect, useState } from "react";
import type { BankLine } from "@/core/draft/bank";
import { ask, refusalOr } from "@/ui/requests";
import { t } from "@/words/t";
import type { ComposerStore } from "./composer-store";

/** What a draft can take from the banks of its course; null: not known yet. */
export function useBankLines(store: ComposerStore): {
  readonly lines: readonly BankLine[] | null;
  readonly problem: string | null;
} {
  const [lines, setLines] = useState<readonly BankLine[] | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    let isThere = true;
    ask<BankLine[]>(`${store.path}/bank`)
      .then((found) => isThere && setLines(found))
      .catch(
        (error) =>
          isThere && setProblem(refusalOr(error, t("composer.composer-store.the-server-cannot-be-reached"))),
      );
    return () => {
      isThere = false;
    };
  }, [store]);
  return { lines, problem };
}

/** The topics of a list, each once. */
export const topicsOf = (lines: readonly BankLine[] | null): string[] => [
  ...new Set((lines ?? []).map(({ topic }) => topic)),
];
