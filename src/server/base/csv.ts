import papaparse from "papaparse";
import { FORMULA } from "@/core/text/table-cells";

/**
 * A table as CSV in UTF-8, with a mark that programs for tables need to see that; what such programs would take for a formula is
 * kept from it by an apostrophe.
 */
export const csvOf = (fields: readonly string[], data: readonly (readonly unknown[])[]): string =>
  `\uFEFF${papaparse.unparse({ fields: [...fields], data: data as unknown[][] }, { escapeFormulae: FORMULA })}\r\n`;
