import { createContext, type ReactNode, useContext } from "react";

/** A picture that the author has at hand. */
export interface AuthorPicture {
  readonly id: string;
  readonly src: string;
  readonly alt: string;
  /** Width through height. */
  readonly aspect: number;
}

/** The pictures of a quiz that is being written. */
export interface AuthorPictures {
  readonly find: (id: string | undefined) => AuthorPicture | null;
  /** Brings a picture to the quiz; answers its id. @throws Refusal with a sentence */
  readonly add: (file: Blob) => Promise<AuthorPicture>;
  readonly describe: (id: string, alt: string) => void;
  /** Why its description has to be put right, if it has. */
  readonly mistakeOf: (id: string) => string | undefined;
}

const Context = createContext<AuthorPictures | null>(null);

/** Gives the views in which questions are written the quiz's pictures. */
export const AuthorPicturesOf = ({
  pictures,
  children,
}: {
  readonly pictures: AuthorPictures;
  readonly children: ReactNode;
}) => <Context value={pictures}>{children}</Context>;

/** The pictures of the quiz that is being written. */
export function useAuthorPictures(): AuthorPictures {
  const pictures = useContext(Context);
  if (!pictures) throw new Error("Nothing gives this view pictures.");
  return pictures;
}
