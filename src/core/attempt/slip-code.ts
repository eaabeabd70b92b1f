/**
 * A slip's code as people type it (small letters, spaces, O for 0) in the form in which it is kept; null: it is none.
 * @example readSlipCode("abcd-efgh-jkmn") → "ABCD-EFGH-JKMN"
 */
export function readSlipCode(text: string): string | null {
  const letters = text
    .toUpperCase()
    .replace(/[\s\-–—.]/g, "")
    .replace(/O/g, "0")
    .replace(/[IL]/g, "1");
  if (!/^[0-9A-HJKMNP-TV-Z]{12}$/.test(letters)) return null;
  return `${letters.slice(0, 4)}-${letters.slice(4, 8)}-${letters.slice(8)}`;
}
