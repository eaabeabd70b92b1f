import { useEffect } from "react";
import { picturePath, recordingPath } from "@/core/attempt/paths";
import type { KindName } from "@/core/kinds/answering";
import { loadViewsAhead } from "../kinds/registry";
import type { DeskState } from "./desk-state";

/** The first answer comes before what may be needed later, in ms. */
const FIRST_THINGS = 3_000;

/**
 * Fetches what the other open questions need, the views first, then pictures, sounds and films one after another, so that each is
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
  const recordings = slots.flatMap(({ question }) => question?.recording?.id ?? []).join("\n");
  useEffect(() => {
    let gone = false;
    const fetchAll = async () => {
      for (const id of ids.split(" ").filter(Boolean)) {
        if (gone) return;
        const image = new Image();
        image.src = picturePath(attemptId, id);
        await image.decode().catch(() => {});
      }
      for (const id of recordings.split("\n").filter(Boolean)) {
        if (gone) return;
        // The browser keeps it for its player.
        await fetch(recordingPath(attemptId, id)).then(
          (answer) => answer.blob(),
          () => {},
        );
      }
    };
    void fetchAll();
    return () => {
      gone = true;
    };
  }, [attemptId, ids, recordings]);
}
