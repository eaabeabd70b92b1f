/**
 * What programs for tables take for a formula when it begins a cell, whatever comes after, on however many lines; some take the
 * wide forms for the same.
 */
export const FORMULA = /^[=+\-@\t\r\n＝＋－＠]/;

/**
 * A cell as it was before an apostrophe kept it from being taken for a formula.
 * @example withoutGuard("'=1+1") → "=1+1"
 */
export const withoutGuard = (cell: string): string =>
  cell.startsWith("'") && FORMULA.test(cell.slice(1)) ? cell.slice(1) : cell;
