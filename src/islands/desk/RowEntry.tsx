import { memo } from "react";
import type { MarkState } from "@/core/kinds/kind";
import type { SlotOnScreen } from "./desk-state";
import { entryWords } from "./entry-words";

interface RowEntryProps {
  readonly slot: number;
  readonly record: SlotOnScreen;
  readonly here: boolean;
  readonly narrow?: boolean;
  readonly onGo: (slot: number) => void;
}

/** Where the line lies in its drawing, and how far it reaches at each side; in pixels. */
const LINE = 4;
const EDGE = 2;

/** How much of the line is inked, 0 to 1. What is begun shows, however little it is. */
const inked = ({ fill }: SlotOnScreen): number =>
  fill.state === "full" ? 1 : fill.state === "part" ? Math.max(0.15, fill.share ?? 0.5) : 0;

/**
 * One question of the row: its number on the ruled line, ink on the line as far as it is answered, a ribbon below it,
 * ruled off twice when closed, and larger with a pointer above where one is.
 */
export const RowEntry = memo(function RowEntry({ slot, record, here, narrow = false, onGo }: RowEntryProps) {
  const words = entryWords(slot, record, here);
  const isShut = record.access !== "open";
  const width = narrow ? 26 : 36;
  return (
    <button
      type="button"
      title={words}
      aria-label={words}
      aria-current={here ? "step" : undefined}
      aria-disabled={isShut && !record.question ? true : undefined}
      onClick={() => onGo(slot)}
      className={`relative flex h-14 flex-col items-center justify-end focus-visible:outline-offset-[-2px] ${narrow ? "w-7" : "w-11"}`}
    >
      {here && (
        <svg className="absolute top-0.5 h-1.5 w-3" viewBox="0 0 12 6" aria-hidden="true">
          <path d="M0 0h12L6 6z" className="fill-ink" />
        </svg>
      )}
      <span
        className={`leading-none ${here ? "pb-1 font-read text-[1.375rem] font-semibold text-ink" : `pb-2 font-bold ${isShut ? "text-ink-3" : "text-ink-2"} ${narrow ? "text-[0.6875rem]" : "text-[0.8125rem]"}`}`}
      >
        {slot}
      </span>
      <Line record={record} width={width} />
    </button>
  );
});

function Line({ record, width }: { readonly record: SlotOnScreen; readonly width: number }) {
  const { access, saved, ribbon, told } = record;
  const reach = width - 2 * EDGE;
  const share = inked(record);
  const middle = width / 2;
  return (
    <svg width={width} height={18} viewBox={`0 0 ${width} 18`} aria-hidden="true" className="shrink-0">
      {access === "ahead" ? (
        <path
          d={`M${EDGE} ${LINE}h${reach}`}
          className="stroke-line-2"
          strokeWidth="2"
          strokeLinecap="round"
          strokeDasharray="0.1 5"
        />
      ) : (
        <path d={`M${EDGE} ${LINE}h${reach}`} className="stroke-line-2" strokeWidth="2" />
      )}
      {share > 0 && (
        <path
          d={`M${EDGE} ${LINE}h${reach * share}`}
          className="stroke-ink"
          strokeWidth="4"
          strokeLinecap="round"
          strokeDasharray={saved ? undefined : "3.5 5.5"}
        />
      )}
      {access === "closed" && (
        <path d={`M${EDGE} ${LINE + 5}h${reach}`} className="stroke-ink-3" strokeWidth="1.75" />
      )}
      {ribbon && access !== "closed" && (
        <path d={`M${middle - 5} ${LINE + 3}h10v8l-5 -3.5l-5 3.5z`} className="fill-ochre" />
      )}
      {told && <ToldSign state={told.state} x={middle} />}
    </svg>
  );
}

/** What a closed question told of itself, below its double line: a small moon, or a stroke where nothing was written. */
function ToldSign({ state, x }: { readonly state: MarkState; readonly x: number }) {
  const y = LINE + 10;
  if (state === "empty" || state === "awaits") {
    return <path d={`M${x - 3} ${y}h6`} className="stroke-indigo" strokeWidth="1.75" />;
  }
  return (
    <>
      <circle cx={x} cy={y} r="3" className="fill-sheet stroke-indigo" strokeWidth="1.5" />
      {state === "full" && <circle cx={x} cy={y} r="3" className="fill-indigo" />}
      {state === "part" && <path d={`M${x} ${y - 3}a3 3 0 0 0 0 6z`} className="fill-indigo" />}
    </>
  );
}
