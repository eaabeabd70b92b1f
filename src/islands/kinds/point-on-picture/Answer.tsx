import { type KeyboardEvent, type PointerEvent, useLayoutEffect, useRef, useState } from "react";
import type {
  Point,
  PointOnPictureAnswer,
  PresentedPointOnPicture,
} from "@/core/kinds/point-on-picture/answer";
import { t } from "@/words/t";
import type { AnswerProps } from "../answer-props";
import { usePicture } from "../pictures";

const ZOOMS = [1, 1.5, 2, 3] as const;
/** An arrow key moves by this share of the picture; with Shift by five of them. */
const STEP = 0.01;

const within = (share: number) => Math.min(1, Math.max(0, Math.round(share * 10_000) / 10_000));
const placeWords = ({ x, y }: Point) =>
  t("kinds.point-on-picture.answer.across-down-2", {
    across: Math.round(x * 100),
    down: Math.round(y * 100),
  });

/** A picture on which points are placed: by pointer, or by a button and the arrow keys. */
export function PointOnPictureView(props: AnswerProps<PresentedPointOnPicture, PointOnPictureAnswer>) {
  const { slot, question, answer, closed, onChoose, onType, onLeave } = props;
  const picture = usePicture(question.picture);
  const frame = useRef<HTMLDivElement>(null);
  const [zoom, setZoom] = useState<number>(1);
  const [said, setSaid] = useState("");
  const [dragged, setDragged] = useState<number | null>(null);
  const points = answer?.points ?? [];
  /** What gets the focus once it is drawn: a point by its number, or the button that places one. */
  const focusNext = useRef<number | "place" | null>(null);
  useLayoutEffect(() => {
    const next = focusNext.current;
    if (next === null) return;
    focusNext.current = null;
    document.getElementById(next === "place" ? `slot-${slot}-place` : `slot-${slot}-point-${next}`)?.focus();
  });
  if (!picture)
    return <p className="text-plum">{t("kinds.point-on-picture.answer.the-picture-is-not-here-load")}</p>;

  const say = (index: number, point: Point) =>
    setSaid(t("kinds.point-on-picture.answer.point", { index: index + 1, placeWords: placeWords(point) }));
  const setAll = (next: readonly Point[]) => onChoose(next.length > 0 ? { points: next } : null);
  const move = (index: number, point: Point) => {
    const next = { x: within(point.x), y: within(point.y) };
    onType({ points: points.map((each, i) => (i === index ? next : each)) });
    say(index, next);
  };
  const remove = (index: number) => {
    // What was removed had the focus, which would be lost with it.
    focusNext.current = "place";
    setAll(points.filter((_, i) => i !== index));
    setSaid(t("kinds.point-on-picture.answer.point-removed", { index: index + 1 }));
  };
  const place = (point: Point) => {
    if (points.length >= question.most) {
      // With one point, pressing elsewhere moves it; with more, one has to be taken away first.
      if (question.most === 1) move(0, point);
      else
        setSaid(t("kinds.point-on-picture.answer.all-points-are-placed-remove-one", { most: question.most }));
      return;
    }
    const next = { x: within(point.x), y: within(point.y) };
    setAll([...points, next]);
    say(points.length, next);
  };
  const at = (event: PointerEvent): Point => {
    const box = frame.current?.getBoundingClientRect();
    return box
      ? { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height }
      : { x: 0.5, y: 0.5 };
  };
  const press = (event: KeyboardEvent, index: number) => {
    const point = points[index];
    if (!point) return;
    const step = event.shiftKey ? STEP * 5 : STEP;
    const moves: Record<string, Point> = {
      ArrowLeft: { x: point.x - step, y: point.y },
      ArrowRight: { x: point.x + step, y: point.y },
      ArrowUp: { x: point.x, y: point.y - step },
      ArrowDown: { x: point.x, y: point.y + step },
    };
    const next = moves[event.key];
    if (next) move(index, next);
    else if (event.key === "Delete" || event.key === "Backspace") remove(index);
    else return;
    event.preventDefault();
    // The desk's own keys turn the page with the same arrows.
    event.stopPropagation();
  };
  const placeByKey = () => {
    focusNext.current = points.length;
    place({ x: 0.5, y: 0.5 });
  };

  return (
    <div className="border-t border-line pt-3">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <p className="small" aria-live="polite">
          {question.least === question.most
            ? t("kinds.point-on-picture.answer.of-placed-2", {
                pointsCount: points.length,
                most: question.most,
              })
            : t("kinds.point-on-picture.answer.placed-to-asked", {
                pointsCount: points.length,
                least: question.least,
                most: question.most,
              })}
        </p>
        <fieldset className="flex gap-1">
          <legend className="sr-only">{t("kinds.point-on-picture.answer.zoom")}</legend>
          {ZOOMS.map((each) => (
            <button
              key={each}
              type="button"
              className="button button-quiet px-2.5! aria-pressed:border-line-2 aria-pressed:bg-sheet"
              aria-pressed={zoom === each}
              onClick={() => setZoom(each)}
            >
              {each} ×
            </button>
          ))}
        </fieldset>
      </div>
      <section
        className="mt-2 max-h-[70dvh] overflow-auto rounded-sm border border-line-2"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by keyboard too
        tabIndex={0}
        aria-label={t("kinds.point-on-picture.answer.the-picture")}
      >
        <div
          ref={frame}
          className={`relative mx-auto touch-manipulation ${closed ? "" : "cursor-crosshair"}`}
          // As large as it can be seen whole; the zoom is on top of that.
          style={{
            width: `calc(min(100%, ${(picture.width / picture.height).toFixed(3)} * 62dvh) * ${zoom})`,
          }}
          onPointerUp={(event) => {
            if (closed) return;
            if (dragged === null) place(at(event));
            setDragged(null);
          }}
          onPointerMove={(event) => dragged !== null && move(dragged, at(event))}
        >
          <img
            src={picture.src}
            alt={picture.alt}
            width={picture.width}
            height={picture.height}
            draggable={false}
            className="block h-auto w-full bg-white select-none"
          />
          {points.map((point, i) => (
            <button
              // biome-ignore lint/suspicious/noArrayIndexKey: a point is its number
              key={i}
              id={`slot-${slot}-point-${i}`}
              type="button"
              aria-label={t("kinds.point-on-picture.answer.point-arrow-keys-move-it-delete", {
                i: i + 1,
                placeWords: placeWords(point),
              })}
              className="absolute grid size-7 -translate-x-1/2 -translate-y-1/2 cursor-grab touch-none place-items-center rounded-full border-2 border-white bg-indigo text-xs font-bold text-on-indigo shadow-md outline-1 outline-ink focus-visible:outline-4 night:border-paper"
              style={{ left: `${point.x * 100}%`, top: `${point.y * 100}%` }}
              onBlur={onLeave}
              onKeyDown={(event) => press(event, i)}
              onPointerDown={(event) => {
                event.stopPropagation();
                if (!closed) setDragged(i);
              }}
            >
              {i + 1}
            </button>
          ))}
        </div>
      </section>
      <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <button
          id={`slot-${slot}-place`}
          type="button"
          className="button"
          disabled={points.length >= question.most}
          onClick={placeByKey}
        >
          {t("kinds.point-on-picture.answer.place-a-point-in-the-middle")}
        </button>
        <p className="small">{t("kinds.point-on-picture.answer.press-on-the-picture-or-place")}</p>
      </div>
      {points.length > 0 && (
        <ul className="mt-3 border-t border-line">
          {points.map((point, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a point is its number
            <li key={i} className="flex items-center justify-between gap-4 border-b border-line py-1">
              <span>
                <b>{i + 1}</b> · {placeWords(point)}
              </span>
              <button type="button" className="button button-quiet" onClick={() => remove(i)}>
                {t("kinds.common.remove")}
                <span className="sr-only"> {t("kinds.point-on-picture.answer.point-2", { i: i + 1 })}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
      <p className="sr-only" aria-live="polite">
        {said}
      </p>
    </div>
  );
}
