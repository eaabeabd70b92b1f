import { useVirtualizer } from "@tanstack/react-virtual";
import { memo, useEffect, useRef } from "react";
import type { PileLine } from "@/core/desk/room-view";
import { FillingMoon } from "@/ui/FillingMoon";
import { say, t } from "@/words/t";
import { isWaiting, keyOf, type Place } from "./pile-order";

/** A paper as it is called: by its student, or by its number. */
export const paperName = ({ name, paper }: Pick<PileLine, "name" | "paper">): string =>
  name ?? t("marking.pile.paper", { paper });

const shareIn = ({ marks, maximum }: PileLine): number | null =>
  marks === null ? null : Number(maximum) === 0 ? 0 : Number(marks) / Number(maximum);

const stateWords = (line: PileLine): string => {
  const words = {
    awaits: t("marking.pile.awaits"),
    begun: t("marking.pile.begun"),
    marked: t("marking.pile.marked"),
    returned: t("marking.pile.returned"),
    changed: t("marking.pile.changed-since-it-was-returned"),
  };
  return words[line.state];
};

/** About so high is a line, in the screen's own points. */
const LINE = 57;
/** Before the page has measured its list, so much of it is made. */
const FIRST_SEEN = { width: 240, height: 640 };

interface PileListProps {
  readonly lines: readonly PileLine[];
  readonly here: Place | null;
  /** Whether all answers of one student stand together: then each says its question. */
  readonly byStudent: boolean;
  readonly onShow: (place: Place) => void;
}

/** The answers of a pile, one below the other; of a long pile only those that are in sight are made. */
export function PileList({ lines, here, byStudent, onShow }: PileListProps) {
  const list = useRef<HTMLDivElement>(null);
  const at = here === null ? -1 : lines.findIndex((line) => keyOf(line) === keyOf(here));
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => list.current,
    estimateSize: () => LINE,
    getItemKey: (i) => keyOf(lines[i] ?? { paper: 0, slot: i }),
    overscan: 6,
    initialRect: FIRST_SEEN,
    initialOffset: Math.max(0, at) * LINE,
    useFlushSync: false,
  });
  const scroll = virtual.scrollToIndex;
  useEffect(() => {
    if (at >= 0) scroll(at, { align: "auto" });
  }, [at, scroll]);
  return (
    <div ref={list} className="min-h-0 flex-1 overflow-y-auto">
      <ol className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map(({ index, key, start }) => {
          const line = lines[index];
          return (
            line && (
              <li
                key={key}
                ref={virtual.measureElement}
                data-index={index}
                aria-setsize={lines.length}
                aria-posinset={index + 1}
                className="absolute inset-x-0 top-0"
                style={{ transform: `translateY(${start}px)` }}
              >
                <Line line={line} isHere={index === at} byStudent={byStudent} onShow={onShow} />
              </li>
            )
          );
        })}
      </ol>
    </div>
  );
}

interface LineProps extends Pick<PileListProps, "byStudent" | "onShow"> {
  readonly line: PileLine;
  readonly isHere: boolean;
}

const Line = memo(function Line({ line, isHere, byStudent, onShow }: LineProps) {
  return (
    <button
      type="button"
      aria-current={isHere ? "true" : undefined}
      className="flex w-full items-center gap-2.5 border-l-[3px] border-transparent px-3.5 py-2 text-left hover:bg-sheet/60 aria-[current]:border-indigo aria-[current]:bg-sheet"
      onClick={() => onShow({ paper: line.paper, slot: line.slot })}
    >
      <FillingMoon share={shareIn(line)} size={16} />
      <span className="min-w-0 flex-1">
        <span className={`block truncate ${isWaiting(line) ? "" : "text-ink-2"}`}>
          {paperName(line)}
          {byStudent && <span className="small"> · {t("marking.pile.question", { slot: line.slot })}</span>}
        </span>
        <span className="small block truncate">
          {[
            say(line.size),
            line.late,
            line.lateWriting ? t("marking.pile.late-writing") : null,
            line.openAt ? t("marking.pile.open-at", { name: line.openAt }) : null,
            line.state === "changed" ? t("marking.pile.changed") : null,
          ]
            .filter(Boolean)
            .join(t("joint.dots"))}
        </span>
        <span className="sr-only">{stateWords(line)}</span>
      </span>
      <span className="text-sm text-ink-2">{line.marks ?? ""}</span>
    </button>
  );
});
