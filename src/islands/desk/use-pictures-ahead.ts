import { useEffect } from "react";
import { picturePath } from "../kinds/pictures";
import type { DeskState } from "./desk-state";

/** Fetches the pictures of the other open questions, one after another, so that each is there when it is turned to. */
export function usePicturesAhead(attemptId: string, { pictures }: Pick<DeskState, "pictures">): void {
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
