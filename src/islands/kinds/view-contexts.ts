import { createContext } from "react";

/** The language of what the author of a quiz wrote, as a tag (BCP 47): it may be another than that of the interface. */
export const ContentLanguage = createContext<string | undefined>(undefined);

/** The language in which the question is answered: its own, unless its author says another. */
export const AnswerLanguage = createContext<string | undefined>(undefined);

/** Whether matching is done with menus also where there is room for more. */
export const ByMenus = createContext(false);

/** Whether what pictures show is also written below them, as screen readers say it. */
export const PictureWords = createContext(false);
