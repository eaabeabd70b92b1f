import { createContext, type ReactNode, useContext } from "react";
import type { PictureView } from "@/core/attempt/desk-view";
import { picturePath } from "@/core/attempt/paths";
import type { OptionContent } from "@/core/kinds/picks/options";

interface Pictures {
  readonly attemptId: string;
  readonly pictures: readonly PictureView[];
}

const Context = createContext<Pictures>({ attemptId: "", pictures: [] });

/** Gives the views of a question its pictures. */
export function PicturesOf({ children, attemptId, pictures }: Pictures & { readonly children: ReactNode }) {
  return <Context value={{ attemptId, pictures }}>{children}</Context>;
}

/** A picture by its id, with where it is; null when it is not on this device. */
export function usePicture(id: string | undefined): (PictureView & { readonly src: string }) | null {
  const { attemptId, pictures } = useContext(Context);
  const found = pictures.find((picture) => picture.id === id);
  return found ? { ...found, src: picturePath(attemptId, found.id) } : null;
}

interface ContentProps {
  readonly content: OptionContent;
  readonly className?: string;
  readonly id?: string;
}

/** What an option, a prompt or an item shows: text, formula, picture, or some of them. */
export function Content({ content, className, id }: ContentProps) {
  const picture = usePicture(content.picture);
  return (
    <span id={id} className={className}>
      {/* biome-ignore lint/security/noDangerouslySetInnerHtml: sanitised when the quiz was taken in */}
      {content.text && <span dangerouslySetInnerHTML={{ __html: content.text }} />}
      {content.drawn && (
        // biome-ignore lint/security/noDangerouslySetInnerHtml: drawn by the server from TeX
        <span dangerouslySetInnerHTML={{ __html: content.drawn }} />
      )}
      {picture && (
        <img
          className="mt-1 block h-auto max-h-64 w-auto max-w-full rounded-sm border border-line bg-white"
          src={picture.src}
          alt={picture.alt}
          width={picture.width}
          height={picture.height}
        />
      )}
    </span>
  );
}
