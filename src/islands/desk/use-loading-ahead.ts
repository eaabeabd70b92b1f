import { useEffect } from "react";
import { picturePath } from "@/core/attempt/paths";
import type { KindName } from "@/core/kinds/answering";
import { loadViewsAhead } from "../kinds/registry";
import type { DeskState } from "./desk-state";

/** The first answer comes before what may be needed later, in ms. */
const FIRST_THINGS = 3_000;

/**
 * Fetches what the other open questions need, the views first and then the pictures one after another, so that each is
 * there when it is turned to, also without a network.
 */
export function useLoadingAhead(
  attemptId: string,
  { slots, pictures }: Pick<DeskState, "slots" | "pictures">,
): void {
  const kinds = [...new Set(slots.flatMap(({ question }) => question?.kind ?? []))].join(" ");
  useEffect(() => {
    const later = setTimeout(
      () => loadViewsAhead(kinds.split(" ").filter(Boolean) as KindName[]),
      FIRST_THINGS,
    );
    return () => clearTimeout(later);
  }, [kinds]);
  const ids = pictures.map(({ id }) => id).join(" ");
  useEffect(() => {
    let gone = false;
    const fetchAll = async () => {
      for (const id of ids.split(" ").filter(Boolean)) {
        if (gone) return;
        const image = new Image();
        image.src = picturePath(attemptId, id);
        await image.decode().catch(() => {});
      }
    };
    void fetchAll();
    return () => {
      gone = true;
    };
  }, [attemptId, ids]);
}
