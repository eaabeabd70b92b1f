import { counted } from "../../time/words";
import { PRESENTED_FIELDS } from "../fields";
import type { AnsweringKind, PresentedCommon } from "../kind";
import { accept, fieldOf, partly, refuse } from "../reading";

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
      ? `Place ${counted(most, "point")} on the picture.`
      : `Place ${least} to ${most} points on the picture.`,
  readAnswer(presented, raw) {
    if (raw === null) return accept<PointOnPictureAnswer>(null);
    const points = fieldOf(raw, "points");
    if (
      !Array.isArray(points) ||
      !points.every((point) => isShare(fieldOf(point, "x")) && isShare(fieldOf(point, "y")))
    ) {
      return refuse("The answer must list points with x and y from 0 to 1.");
    }
    if (points.length > presented.most) return refuse(`Place ${counted(presented.most, "point")} at most.`);
    const kept = points.map((point) => ({ x: Number(fieldOf(point, "x")), y: Number(fieldOf(point, "y")) }));
    return accept(kept.length > 0 ? { points: kept } : null);
  },
  fill(presented, answer) {
    const count = answer?.points.length ?? 0;
    if (count === 0) return { state: "empty", words: "empty" };
    if (count < presented.least)
      return partly(count, presented.least, `${count} of ${presented.least} placed`);
    return { state: "full", words: `${count} placed` };
  },
  summary: (_, answer) =>
    (answer?.points ?? [])
      .map(({ x, y }) => `${Math.round(x * 100)} % across, ${Math.round(y * 100)} % down`)
      .join(" · "),
};
