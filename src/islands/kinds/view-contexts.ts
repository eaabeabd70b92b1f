import { createContext } from "react";

/** Whether matching is done with menus also where there is room for more. */
export const ByMenus = createContext(false);

/** Whether what pictures show is also written below them, as screen readers say it. */
export const PictureWords = createContext(false);
