import * as yup from "yup";
import { exact, ONE, shown, ZERO } from "../../numbers/exact";
import { said, saidTogether } from "../../said";
import { QUESTION_FIELDS } from "../fields";
import type { MarkingKind, QuestionCommon } from "../kind";
import { setCredit } from "../picks/credit";
import { commonFields, exactObject, identifier, shapeOf, uniqueBy } from "../shapes";
import { wholeWithCredit } from "../whole-mark";
import type { Point, PointOnPictureAnswer, PresentedPointOnPicture } from "./answer";

/** A right place, in shares of the picture's width and height. */
export type Region =
  | {
      readonly id: string;
      readonly name: string;
      readonly shape: "circle";
      readonly x: number;
      readonly y: number;
      readonly radius: number;
    }
  | {
      readonly id: string;
      readonly name: string;
      readonly shape: "rectangle";
      readonly x: number;
      readonly y: number;
      readonly width: number;
      readonly height: number;
    }
  | {
      readonly id: string;
      readonly name: string;
      readonly shape: "polygon";
      readonly corners: readonly Point[];
    };

export interface PointOnPicture extends QuestionCommon {
  readonly kind: "point-on-picture";
  readonly picture: string;
  /** Width through height of the picture, so that a circle is one. */
  readonly aspect: number;
  /** The right places; each is to be hit once. */
  readonly regions: readonly Region[];
  /** The most points; as many as there are regions by default. */
  readonly most?: number | undefined;
  readonly credit: "all-or-nothing" | "by-region";
}

const share = () => yup.number().strict().min(0).max(1);

const regionShape = exactObject({
  id: identifier(),
  name: yup
    .string()
    .strict()
    .min(1)
    .max(200)
    .required(said("quiz-file.kinds.point-on-picture.mark.is-missing-what-is-there")),
  shape: yup.string().strict().oneOf(["circle", "rectangle", "polygon"]).required(),
  x: share(),
  y: share(),
  radius: share(),
  width: share(),
  height: share(),
  corners: yup
    .array()
    .of(
      exactObject({
        x: share().required(),
        y: share().required(),
      }),
    )
    .min(3, said("quiz-file.kinds.point-on-picture.mark.must-have-at-least-three-corners"))
    .max(100),
}).test("measures", said("quiz-file.kinds.point-on-picture.mark.must-have-the-measures-of-its"), (region) => {
  const has = (...names: (keyof typeof region)[]) => names.every((name) => region[name] !== undefined);
  if (region.shape === "circle") return has("x", "y", "radius");
  return region.shape === "rectangle" ? has("x", "y", "width", "height") : has("corners");
});

const shape = shapeOf<PointOnPicture>(
  exactObject({
    ...commonFields("point-on-picture"),
    picture: identifier(),
    aspect: yup
      .number()
      .strict()
      .min(0.05)
      .max(20)
      .required(said("quiz-file.kinds.point-on-picture.mark.is-missing-width-through-height-of")),
    most: yup.number().strict().integer().min(1).max(50),
    credit: yup.string().strict().oneOf(["all-or-nothing", "by-region"]).required(),
    regions: yup
      .array()
      .of(regionShape)
      .min(1, said("quiz-file.kinds.point-on-picture.mark.must-have-at-least-one-region"))
      .max(50)
      .required()
      .test(
        "ids",
        said("quiz-file.kinds.point-on-picture.mark.must-have-regions-with-different-ids"),
        uniqueBy("id"),
      ),
  }).test(
    "most",
    said("quiz-file.kinds.point-on-picture.mark.most-must-let-every-region-be"),
    ({ most, regions }) => most === undefined || most >= (regions ?? []).length,
  ),
);

/**
 * Whether a point lies in a region, its edge included. A polygon by the even-odd rule.
 * @example liesIn({ x: 0.5, y: 0.5 }, { id: "a", name: "A", shape: "circle", x: 0.5, y: 0.4, radius: 0.2 }, 1) → true
 */
export function liesIn({ x, y }: Point, region: Region, aspect: number): boolean {
  if (region.shape === "circle")
    return Math.hypot((x - region.x) * aspect, y - region.y) <= region.radius + 1e-12;
  if (region.shape === "rectangle") {
    return x >= region.x && x <= region.x + region.width && y >= region.y && y <= region.y + region.height;
  }
  let inside = false;
  const { corners } = region;
  for (let i = 0, j = corners.length - 1; i < corners.length; j = i, i += 1) {
    const [a, b] = [corners[i], corners[j]];
    if (!a || !b) continue;
    if (a.y > y !== b.y > y && x < ((b.x - a.x) * (y - a.y)) / (b.y - a.y) + a.x) inside = !inside;
  }
  return inside;
}

/** A point well inside a region. */
function middleOf(region: Region): Point {
  if (region.shape === "circle") return { x: region.x, y: region.y };
  if (region.shape === "rectangle")
    return { x: region.x + region.width / 2, y: region.y + region.height / 2 };
  const candidates = region.corners.flatMap((a, i) =>
    region.corners.slice(i + 1).map((b) => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 })),
  );
  return candidates.find((point) => liesIn(point, region, 1)) ?? region.corners[0] ?? { x: 0, y: 0 };
}

/**
 * The regions hit, each counted once; a second point in a region, or one beside all of them, is a wrong one. Where regions
 * overlap, each point stands for the region with which most are hit (a maximum matching, by augmenting paths).
 */
function hitsOf(question: PointOnPicture, points: readonly Point[]): { hit: Region[]; wrong: number } {
  const within = points.map((point) =>
    question.regions.filter((each) => liesIn(point, each, question.aspect)),
  );
  const pointOf = new Map<Region, number>();
  const place = (point: number, tried: Set<Region>): boolean =>
    (within[point] ?? []).some((region) => {
      if (tried.has(region)) return false;
      tried.add(region);
      const other = pointOf.get(region);
      if (other !== undefined && !place(other, tried)) return false;
      pointOf.set(region, point);
      return true;
    });
  for (const point of points.keys()) place(point, new Set());
  const hit = question.regions.filter((region) => pointOf.has(region));
  return { hit, wrong: points.length - hit.length };
}

export const pointOnPictureMarking: MarkingKind<
  PointOnPicture,
  PresentedPointOnPicture,
  PointOnPictureAnswer
> = {
  name: "point-on-picture",
  fields: { ...QUESTION_FIELDS, picture: "picture", regions: [{ name: "plain" }] },
  shape,
  scoring: ({ credit, regions }) =>
    regions.length === 1
      ? ""
      : credit === "by-region"
        ? said("kinds.point-on-picture.mark.each-right-place-counts-a-wrong")
        : said("kinds.point-on-picture.mark.marks-only-for-all-the-right"),
  present: (question, seed) => ({
    kind: "point-on-picture",
    text: question.text,
    marks: shown(question.marks),
    picture: seed.picture(question.picture),
    least:
      (question.most ?? question.regions.length) === question.regions.length ? question.regions.length : 1,
    most: question.most ?? question.regions.length,
  }),
  mark(question, _, answer) {
    const { hit, wrong } = hitsOf(question, answer?.points ?? []);
    const rule = question.credit === "by-region" ? "by-option" : "all-or-nothing";
    const credit = answer === null ? ZERO : setCredit(rule, hit.length, wrong, question.regions.length);
    const names = (regions: readonly Region[]) => regions.map((region) => region.name).join(" · ");
    const found = said("kinds.point-on-picture.mark.of-other-found", {
      hitCount: hit.length,
      regionsCount: question.regions.length,
      part: wrong > 0 ? said("kinds.point-on-picture.mark.other-beside", { wrong }) : "",
    });
    const line = {
      written:
        answer === null
          ? ""
          : saidTogether(
              [names(hit), wrong > 0 ? said("kinds.point-on-picture.mark.other-points", { wrong }) : ""],
              "dots",
            ),
      right: names(question.regions),
      why:
        answer === null
          ? said("kinds.common.empty-no-marks")
          : credit.equals(ONE)
            ? said("kinds.common.right")
            : found,
      identity: (answer?.points ?? []).map(({ x, y }) => `${x} ${y}`).join(";"),
    };
    return wholeWithCredit(exact(question.marks), credit, line, answer === null ? "empty" : undefined);
  },
  rightAnswer: (question) => ({ points: question.regions.map(middleOf) }),
};
