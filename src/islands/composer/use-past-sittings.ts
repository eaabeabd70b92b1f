import { useEffect, useState } from "react";
import type { PastSittings } from "@/core/draft/past-sittings";
import { ask } from "@/ui/requests";
import type { ComposerStore } from "./composer-store";

/** How the questions behaved where the quiz was taken before; null: it is not known, or not yet. */
export function usePastSittings(store: ComposerStore, quizId: string | null): PastSittings | null {
  const [past, setPast] = useState<PastSittings | null>(null);
  useEffect(() => {
    if (quizId === null) return;
    let isThere = true;
    // It is a help beside the writing: where it cannot be had, nothing is said.
    ask<PastSittings>(`${store.path}/past`, {})
      .then((found) => isThere && setPast(found))
      .catch(() => {});
    return () => {
      isThere = false;
    };
  }, [store, quizId]);
  return past;
}
