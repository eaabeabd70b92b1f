/**
 * A moon lit from the left, in a box of 16: a half circle, and a half ellipse that bends to the lit share.
 * @param part the lit share, 0 to 1
 */
export const litPath = (part: number): string => {
  const bend = 7 * (1 - 2 * part);
  return `M8 1a7 7 0 0 0 0 14a${Math.abs(bend).toFixed(2)} 7 0 0 ${bend > 0 ? 1 : 0} 0-14z`;
};
