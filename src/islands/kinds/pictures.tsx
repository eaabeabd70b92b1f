import { createContext, type ReactNode, useContext } from "react";
import { picturePath } from "@/core/attempt/paths";
import type { PictureView } from "@/core/desk/desk-view";
import type { OptionContent } from "@/core/kinds/picks/content";
import { ContentLanguage, PictureWords } from "./view-contexts";

interface Pictures {
  readonly attemptId: string;
  readonly pictures: readonly PictureView[];
  /** Where a picture is, where it is not one of an attempt's. */
  readonly pathOf?: (id: string) => string;
}

const Context = createContext<Pictures>({ attemptId: "", pictures: [] });

/** Gives the views of a question its pictures. */
export function PicturesOf({ children, ...terms }: Pictures & { readonly children: ReactNode }) {
  return <Context value={terms}>{children}</Context>;
}

/** A picture by its id, with where it is; null when it is not on this device. */
export function usePicture(id: string | undefined): (PictureView & { readonly src: string }) | null {
  const { attemptId, pictures, pathOf } = useContext(Context);
  const found = pictures.find((picture) => picture.id === id);
  return found ? { ...found, src: pathOf ? pathOf(found.id) : picturePath(attemptId, found.id) } : null;
}

const Drawn = ({
  picture,
  className,
}: {
  readonly picture: PictureView & { readonly src: string };
  readonly className: string;
}) => (
  <img
    className={`block h-auto w-auto max-w-full rounded-sm border border-line bg-white ${className}`}
    src={picture.src}
    alt={picture.alt}
    width={picture.width}
    height={picture.height}
  />
);

/** The picture below the text of a question. Its place is kept while it comes. */
export function Figure({ id }: { readonly id: string | undefined }) {
  const picture = usePicture(id);
  if (!picture) return null;
  return (
    <figure className="mb-4">
      <Drawn picture={picture} className="max-h-[26rem]" />
      <InWords alt={picture.alt} />
    </figure>
  );
}

/** What a picture shows, for those who want it in words; a screen reader has it from the picture. */
function InWords({ alt }: { readonly alt: string }) {
  return useContext(PictureWords) && alt !== "" ? (
    <span className="small mt-1 block" aria-hidden="true">
      {alt}
    </span>
  ) : null;
}

interface ContentProps {
  readonly content: OptionContent;
  readonly className?: string;
  readonly id?: string;
}

/** What an option, a prompt or an item shows: text, formula, picture, or some of them. */
export function Content({ content, className, id }: ContentProps) {
  const picture = usePicture(content.picture);
  const language = useContext(ContentLanguage);
  return (
    <span id={id} lang={language} className={className}>
      {/* biome-ignore lint/security/noDangerouslySetInnerHtml: sanitised when the quiz was taken in */}
      {content.text && <span dangerouslySetInnerHTML={{ __html: content.text }} />}
      {content.drawn && (
        // biome-ignore lint/security/noDangerouslySetInnerHtml: drawn by the server from TeX
        <span dangerouslySetInnerHTML={{ __html: content.drawn }} />
      )}
      {picture && <Drawn picture={picture} className="mt-1 max-h-64" />}
      {picture && <InWords alt={picture.alt} />}
    </span>
  );
}
