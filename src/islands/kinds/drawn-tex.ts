import katex from "katex";

/** How formulas are drawn in the page: nothing of them runs, and none grows without end. */
export const DRAWING = { trust: false, maxExpand: 200, maxSize: 8 } as const;

/** A formula in TeX as HTML; what cannot be read is marked in it. */
export const drawnTex = (tex: string): string =>
  katex.renderToString(tex, { ...DRAWING, output: "htmlAndMathml", throwOnError: false });
