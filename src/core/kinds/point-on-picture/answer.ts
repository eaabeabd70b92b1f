import { said, saidTogether } from "../../said";
import { accept, fieldOf, partly, refuse } from "../answer-reading";
import { PRESENTED_FIELDS } from "../fields";
import type { AnsweringKind, PresentedCommon } from "../kind";

export interface PresentedPointOnPicture extends PresentedCommon {
  readonly kind: "point-on-picture";
  /** The id of one of the quiz's pictures. */
  readonly picture: string;
  /** The fewest and the most points. */
  readonly least: number;
  readonly most: number;
}

/** A place on a picture: shares of its width and height from the left top, 0 to 1. */
export interface Point {
  readonly x: number;
  readonly y: number;
}

export interface PointOnPictureAnswer {
  readonly points: readonly Point[];
}

const isShare = (value: unknown): value is number => typeof value === "number" && value >= 0 && value <= 1;

export const pointOnPictureAnswering: AnsweringKind<PresentedPointOnPicture, PointOnPictureAnswer> = {
  name: "point-on-picture",
  fields: { ...PRESENTED_FIELDS, picture: "picture" },
  instruction: ({ least, most }) =>
    least === most
      ? said("kinds.point-on-picture.answer.place-other-on-the-picture", { most })
      : said("kinds.point-on-picture.answer.place-to-points-on-the-picture", { least, most }),
  readAnswer(presented, raw) {
    if (raw === null) return accept<PointOnPictureAnswer>(null);
    const points = fieldOf(raw, "points");
    if (
      !Array.isArray(points) ||
      !points.every((point) => isShare(fieldOf(point, "x")) && isShare(fieldOf(point, "y")))
    ) {
      return refuse(said("kinds.point-on-picture.answer.the-answer-must-list-points-with"));
    }
    if (points.length > presented.most)
      return refuse(said("kinds.point-on-picture.answer.place-other-at-most", { most: presented.most }));
    const read = points.map((point) => ({ x: Number(fieldOf(point, "x")), y: Number(fieldOf(point, "y")) }));
    return accept(read.length > 0 ? { points: read } : null);
  },
  fill(presented, answer) {
    const count = answer?.points.length ?? 0;
    if (count === 0) return { state: "empty", words: said("kinds.common.empty") };
    if (count < presented.least)
      return partly(
        count,
        presented.least,
        said("kinds.point-on-picture.answer.of-placed", { count, least: presented.least }),
      );
    return { state: "full", words: said("kinds.point-on-picture.answer.count-placed", { count }) };
  },
  summary: (_, answer) =>
    saidTogether(
      (answer?.points ?? []).map(({ x, y }) =>
        said("kinds.point-on-picture.answer.across-down", {
          across: Math.round(x * 100),
          down: Math.round(y * 100),
        }),
      ),
      "dots",
    ),
};
