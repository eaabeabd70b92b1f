import { config } from "./config";

/**
 * The language of what an author wrote, as a tag for pages: its own where one is known, or else the institution's.
 * @param content a quiz, or what is known of one; absent for what has no language of its own: courses, announcements
 */
export const contentLanguage = ({ language }: { readonly language?: string | undefined } = {}): string =>
  language ?? config.language;
