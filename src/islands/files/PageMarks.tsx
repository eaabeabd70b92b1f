import type { PointerEvent, ReactNode } from "react";
import { useRef, useState } from "react";

/** A place on a page, as shares of it; without width and height it is a spot. */
export interface PageBox {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

interface PageMarksProps {
  readonly children: ReactNode;
  /** What is marked on this page, with the numbers of the notes. */
  readonly marks: readonly (PageBox & { readonly number: number; readonly label: string })[];
  /** Called with a place that was pointed at, or drawn; absent: nothing can be pinned. */
  readonly onPlace?: (box: PageBox) => void;
}

/** Smaller than this share of a page it is a spot, and not a box. */
const SMALLEST_BOX = 0.02;
const share = (part: number) => `${part * 100}%`;
const within = (part: number) => Math.min(1, Math.max(0, part));

/** A page or a picture with what is pinned to it: a press pins a spot, a drag a box. */
export function PageMarks({ children, marks, onPlace }: PageMarksProps) {
  const page = useRef<HTMLDivElement>(null);
  const [from, setFrom] = useState<{ x: number; y: number } | null>(null);
  const [to, setTo] = useState<{ x: number; y: number } | null>(null);
  const pointIn = (event: PointerEvent) => {
    const box = page.current?.getBoundingClientRect();
    return box
      ? {
          x: within((event.clientX - box.left) / box.width),
          y: within((event.clientY - box.top) / box.height),
        }
      : null;
  };
  const drawn = from && to ? boxOf(from, to) : null;
  return (
    <div
      ref={page}
      className={`relative w-fit max-w-full ${onPlace ? "cursor-crosshair touch-pan-y" : ""}`}
      onPointerDown={(event) => {
        if (!onPlace || event.button !== 0) return;
        const point = pointIn(event);
        setFrom(point);
        setTo(point);
        if (event.pointerType === "mouse") event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event) => from && setTo(pointIn(event))}
      onPointerCancel={() => setFrom(null)}
      onPointerUp={(event) => {
        const end = pointIn(event);
        if (onPlace && from && end) onPlace(boxOf(from, end));
        setFrom(null);
        setTo(null);
      }}
    >
      {children}
      {marks.map(({ number, label, ...box }) => (
        <span
          key={number}
          className="pointer-events-none absolute"
          style={{
            left: share(box.x),
            top: share(box.y),
            width: share(box.width),
            height: share(box.height),
          }}
        >
          {box.width > 0 && <span className="absolute inset-0 border-2 border-indigo bg-indigo/10" />}
          <span className="absolute -top-3 -left-3 grid size-6 place-items-center rounded-full border-2 border-white bg-indigo text-xs font-bold text-on-indigo outline-1 outline-ink">
            {number}
          </span>
          <span className="sr-only">{label}</span>
        </span>
      ))}
      {drawn && drawn.width > 0 && (
        <span
          className="pointer-events-none absolute border-2 border-dashed border-indigo bg-indigo/10"
          style={{
            left: share(drawn.x),
            top: share(drawn.y),
            width: share(drawn.width),
            height: share(drawn.height),
          }}
        />
      )}
    </div>
  );
}

function boxOf(a: { x: number; y: number }, b: { x: number; y: number }): PageBox {
  const width = Math.abs(a.x - b.x);
  const height = Math.abs(a.y - b.y);
  if (width < SMALLEST_BOX || height < SMALLEST_BOX) return { x: b.x, y: b.y, width: 0, height: 0 };
  return { x: Math.min(a.x, b.x), y: Math.min(a.y, b.y), width, height };
}
