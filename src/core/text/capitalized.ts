/**
 * A text with a capital at its beginning.
 * @example capitalized("ebb") → "Ebb"
 */
export const capitalized = (text: string): string => `${text.charAt(0).toUpperCase()}${text.slice(1)}`;
