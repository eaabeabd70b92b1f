import { memo } from "react";
import type { SlotState } from "./desk-state";
import { spineWords } from "./spine-words";

interface SpineProps {
  readonly slot: number;
  readonly spine: SlotState;
  readonly here: boolean;
  readonly narrow?: boolean;
  readonly onGo: (slot: number) => void;
}

const FOOT = { full: "w-full", part: "w-1/2", empty: "w-0" } as const;

/**
 * One question on the shelf: outline, inked foot, folded corner, taller where one is, crossed foot when closed, dashed
 * foot while the server does not have it.
 */
export const Spine = memo(function Spine({ slot, spine, here, narrow = false, onGo }: SpineProps) {
  const words = spineWords(slot, spine, here);
  const isShut = spine.standing !== "open";
  return (
    <button
      type="button"
      title={words}
      aria-label={words}
      aria-current={here ? "step" : undefined}
      aria-disabled={isShut && !spine.question ? true : undefined}
      onClick={() => onGo(slot)}
      className={`relative block overflow-hidden rounded-t-sm border bg-sheet pt-2 font-bold focus-visible:outline-offset-[-3px] ${narrow ? "w-6 text-[0.6875rem]" : "w-[2.375rem] text-[0.8125rem]"} ${here ? "h-14 border-2 border-ink text-ink" : "h-11 border-line-2 text-ink-2 hover:border-control"} ${spine.standing === "ahead" ? "border-dashed bg-transparent" : ""}`}
    >
      <span className="absolute inset-x-0 top-2">{slot}</span>
      {spine.folded && (
        <svg className="absolute top-0 right-0 size-3.5" viewBox="0 0 14 14" aria-hidden="true">
          <path d="M0 0h14v14z" className="fill-paper" />
          <path d="M0 0v14h14z" className="fill-ochre" />
        </svg>
      )}
      <span
        className={`absolute bottom-0 left-0 h-4 ${FOOT[spine.fill.state]} ${spine.saved ? "bg-ink" : "border-t-2 border-dashed border-ink bg-sunk"}`}
      />
      {spine.standing === "closed" && (
        <svg
          className="absolute inset-x-0 bottom-0 h-4 w-full border-t border-ink"
          viewBox="0 0 16 16"
          preserveAspectRatio="none"
          aria-hidden="true"
        >
          <path
            d="M0 16L16 0M0 0l16 16"
            className={spine.fill.state === "empty" ? "stroke-ink-2" : "stroke-paper"}
            strokeWidth="1.5"
            vectorEffect="non-scaling-stroke"
          />
        </svg>
      )}
    </button>
  );
});
