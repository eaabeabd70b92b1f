import { useMemo, useRef } from "react";
import { type DraftPiece, type Pieces, picturesOf } from "@/core/draft/pieces";
import { stepWords } from "@/core/draft/step-words";
import { sendBytes } from "@/ui/requests";
import { say, t } from "@/words/t";
import type { AuthorPictures } from "../kinds/writing/author-pictures";
import type { ComposerState, ComposerStore } from "./composer-store";

/** What the server kept of a file. */
interface Kept {
  readonly asset: string;
  readonly type: string;
  readonly aspect: number;
}

/** Brings a file to the course of a draft. @throws Refusal with a sentence */
export const bringFile = (path: string, file: Blob): Promise<Kept> => sendBytes<Kept>(`${path}/assets`, file);

export const assetPath = (path: string, asset: string): string => `${path}/assets/${asset}`;

/** The pictures of the draft, for the views in which its questions are written. */
export function usePictures(
  store: ComposerStore,
  pieces: Pieces,
  steps: ComposerState["steps"],
): AuthorPictures {
  const known = useMemo(() => picturesOf(pieces), [pieces]);
  const now = useRef({ known, steps });
  now.current = { known, steps };
  return useMemo(() => {
    const view = ({
      id,
      alt,
      asset,
      aspect,
    }: {
      id: string;
      alt: string;
      asset: string;
      aspect: number;
    }) => ({
      id,
      alt,
      aspect,
      src: assetPath(store.path, asset),
    });
    return {
      // Read again with each draft that it is given.
      find: (id) => {
        const picture = id === undefined ? undefined : known.get(id);
        return picture ? view(picture) : null;
      },
      add: async (file) => {
        const kept = await bringFile(store.path, file);
        const id = store.newName("pic");
        const piece: DraftPiece = {
          piece: "picture",
          picture: { id, alt: "", asset: kept.asset, aspect: kept.aspect },
        };
        store.change(new Map([[store.newSlot(), piece]]), t("compose.step-names.picture"));
        return view({ id, alt: "", ...kept });
      },
      describe: (id, alt) => {
        const picture = now.current.known.get(id);
        if (!picture) return;
        const { slot, ...rest } = picture;
        store.change(
          new Map([[slot, { piece: "picture", picture: { ...rest, alt } }]]),
          t("compose.step-names.typing"),
          `alt ${id}`,
        );
      },
      mistakeOf: (id) => {
        const slot = now.current.known.get(id)?.slot;
        const step = now.current.steps?.find((each) => each.slot === slot && each.must);
        return step && say(stepWords(step));
      },
    };
  }, [store, known]);
}
