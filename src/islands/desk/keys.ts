/** The keys of the desk, as they are told. */
export const KEYS: readonly (readonly [keys: string, what: string])[] = [
  ["→ or J, ← or K", "next and previous question"],
  ["1 to 9, or A to I", "pick an option"],
  ["X, then 1 to 9", "rule an option out, or bring it back"],
  ["F", "fold the corner, or unfold it"],
  ["Ctrl + S", "save at once"],
  ["?", "show these keys"],
];
