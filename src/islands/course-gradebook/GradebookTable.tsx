// biome-ignore-all lint/a11y/useKeyWithClickEvents: the grid itself takes the keys, for all of its cells
// biome-ignore-all lint/a11y/useSemanticElements: of a table as large as this only what is in sight is made, which the rows of a table element cannot do
// biome-ignore-all lint/a11y/useFocusableInteractive: the grid itself is focused, and says which cell is meant
import { useVirtualizer } from "@tanstack/react-virtual";
import { type KeyboardEvent, memo, useEffect, useRef } from "react";
import type { TableCategory, TableCell, TableItem, TableStudent } from "@/core/gradebook/table-data";
import { FillingMoon } from "@/ui/FillingMoon";
import { t } from "@/words/t";
import { cellFigure, cellInWords, cellWord, wordsBeside } from "./cell-words";
import type { Place } from "./table-store";

const ROW = 44;
const HEAD = 84;
/** A column is at least so wide, and wider where there is room. */
const COLUMN = 118;
const WIDEST = 190;
/** What names and standings take of a wide screen. */
const HELD = 208 + 176;
const FIRST_SEEN = { width: 1280, height: 640 };

interface GradebookTableProps {
  readonly title: string;
  readonly categories: readonly TableCategory[];
  readonly items: readonly TableItem[];
  readonly lines: readonly TableStudent[];
  readonly place: Place | null;
  readonly onPick: (place: Place) => void;
  /** Somebody begins to type a mark in the picked cell; null: they press Enter. */
  readonly onType: (figure: string | null) => void;
}

export const cellId = ({ row, column }: Place): string => `cell-${row}-${column}`;

/** Where a key leads from a place; null: it leads nowhere. */
export function placeAfter(
  key: string,
  { row, column }: Place,
  { rows, columns, page }: { readonly rows: number; readonly columns: number; readonly page: number },
): Place | null {
  const within = (next: Place): Place => ({
    row: Math.max(-1, Math.min(rows - 1, next.row)),
    column: Math.max(0, Math.min(columns - 1, next.column)),
  });
  switch (key) {
    case "ArrowDown":
      return within({ row: row + 1, column });
    case "ArrowUp":
      return within({ row: row - 1, column });
    case "ArrowRight":
      return within({ row, column: column + 1 });
    case "ArrowLeft":
      return within({ row, column: column - 1 });
    case "PageDown":
      return within({ row: row + page, column });
    case "PageUp":
      return within({ row: Math.max(0, row - page), column });
    case "Home":
      return within({ row, column: 0 });
    case "End":
      return within({ row, column: columns - 1 });
    default:
      return null;
  }
}

/** Students by pieces of work; of a large course only what is in sight is made. */
export function GradebookTable(props: GradebookTableProps) {
  const { title, categories, items, lines, place, onPick, onType } = props;
  const frame = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => frame.current,
    estimateSize: () => ROW,
    getItemKey: (i) => lines[i]?.id ?? i,
    paddingStart: HEAD,
    scrollPaddingStart: HEAD,
    overscan: 8,
    initialRect: FIRST_SEEN,
    useFlushSync: false,
  });
  const room = (rows.scrollRect?.width ?? FIRST_SEEN.width) - HELD;
  const width = Math.max(COLUMN, Math.min(WIDEST, Math.floor(room / Math.max(1, items.length))));
  const columns = useVirtualizer({
    horizontal: true,
    count: items.length,
    getScrollElement: () => frame.current,
    estimateSize: () => width,
    overscan: 3,
    initialRect: FIRST_SEEN,
    useFlushSync: false,
  });
  const seen = columns.getVirtualItems();
  const before = seen[0]?.start ?? 0;
  const after = columns.getTotalSize() - (seen.at(-1)?.end ?? 0);
  const { scrollToIndex: toRow } = rows;
  const { measure } = columns;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the columns are measured anew when they are wider
  useEffect(() => measure(), [measure, width]);
  useEffect(() => {
    if (place === null) return;
    if (place.row >= 0) toRow(place.row, { align: "auto" });
    bringIntoSight(frame.current, place.column, width);
  }, [place, toRow, width]);
  const press = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const from = place ?? { row: 0, column: 0 };
    const page = Math.max(1, Math.floor((frame.current?.clientHeight ?? 600) / ROW) - 3);
    const next = placeAfter(event.key, from, { rows: lines.length, columns: items.length + 1, page });
    if (next) {
      event.preventDefault();
      onPick(place === null ? { row: 0, column: 0 } : next);
    } else if (place !== null && event.key === "Enter") {
      event.preventDefault();
      onType(null);
    } else if (place !== null && place.row >= 0 && place.column < items.length && /^[0-9]$/.test(event.key)) {
      event.preventDefault();
      onType(event.key);
    }
  };
  const isPicked = (row: number, column: number) => place?.row === row && place.column === column;
  return (
    <div
      ref={frame}
      role="grid"
      aria-label={title}
      aria-rowcount={lines.length + 1}
      aria-colcount={items.length + 2}
      aria-activedescendant={place === null ? undefined : cellId(place)}
      tabIndex={0}
      className="relative min-h-0 flex-1 overflow-auto overscroll-contain border-t border-line outline-none focus-visible:outline-2 focus-visible:-outline-offset-2 focus-visible:outline-indigo"
      onKeyDown={press}
    >
      <div
        className="relative w-max min-w-full [--name:8.5rem] md:[--name:13rem]"
        style={{ height: rows.getTotalSize() }}
      >
        <div className="sticky top-0 z-20 bg-paper" style={{ height: HEAD }}>
          <div className="flex h-8" aria-hidden="true">
            <div className="sticky left-0 z-10 w-[var(--name)] shrink-0 bg-paper" />
            {categories.map((category, i) => (
              <div
                key={category.id}
                className={`shrink-0 overflow-clip ${i % 2 === 0 ? "bg-margin" : "bg-sunk"}`}
                style={{ width: category.items.length * width }}
              >
                <span className="sticky left-[var(--name)] inline-block max-w-full truncate px-2.5 py-1.5 text-[0.8125rem] font-bold text-ink-2">
                  {categoryWords(category)}
                </span>
              </div>
            ))}
          </div>
          <div role="row" aria-rowindex={1} className="flex h-[52px] items-stretch border-b border-ink">
            <div
              role="columnheader"
              aria-colindex={1}
              className="small sticky left-0 z-10 flex w-[var(--name)] shrink-0 items-end bg-paper px-4 pb-2 md:px-8"
            >
              {t("course-gradebook.gradebook-table.student")}
            </div>
            <div className="shrink-0" style={{ width: before }} />
            {seen.map(({ index }) => {
              const item = items[index];
              return (
                item && (
                  <Head
                    key={item.id}
                    item={item}
                    column={index}
                    width={width}
                    isPicked={isPicked(-1, index)}
                    onPick={onPick}
                  />
                )
              );
            })}
            <div className="shrink-0" style={{ width: after }} />
            <div
              id={cellId({ row: -1, column: items.length })}
              role="columnheader"
              aria-colindex={items.length + 2}
              className={`flex w-44 shrink-0 flex-1 flex-col justify-end px-3 pb-1.5 text-right md:sticky md:right-0 ${isPicked(-1, items.length) ? "bg-sheet outline-2 -outline-offset-2 outline-indigo" : "bg-paper"}`}
              onClick={() => onPick({ row: -1, column: items.length })}
            >
              <span className="text-sm font-bold">{t("course-gradebook.gradebook-table.standing")}</span>
              <span className="small">{t("course-gradebook.gradebook-table.all-marked")}</span>
            </div>
          </div>
        </div>
        {rows.getVirtualItems().map(({ index: row, key, start }) => {
          const student = lines[row];
          return (
            student && (
              <div
                key={key}
                role="row"
                aria-rowindex={row + 2}
                className="absolute inset-x-0 top-0 flex border-b border-line"
                style={{ transform: `translateY(${start}px)`, height: ROW }}
              >
                <div
                  role="rowheader"
                  aria-colindex={1}
                  className="sticky left-0 z-10 flex w-[var(--name)] shrink-0 items-center bg-paper px-4 font-bold md:px-8"
                >
                  <span className="truncate" title={student.name}>
                    {student.name}
                  </span>
                </div>
                <div className="shrink-0" style={{ width: before }} />
                {seen.map(({ index: column }) => {
                  const item = items[column];
                  const cell = student.cells[column];
                  return (
                    item &&
                    cell && (
                      <Cell
                        key={item.id}
                        student={student}
                        item={item}
                        cell={cell}
                        row={row}
                        column={column}
                        width={width}
                        isPicked={isPicked(row, column)}
                        onPick={onPick}
                      />
                    )
                  );
                })}
                <div className="shrink-0" style={{ width: after }} />
                <Standing
                  student={student}
                  row={row}
                  column={items.length}
                  isPicked={isPicked(row, items.length)}
                  onPick={onPick}
                />
              </div>
            )
          );
        })}
      </div>
    </div>
  );
}

/** Scrolls a column out from behind the names and the standings. */
function bringIntoSight(frame: HTMLElement | null, column: number, width: number): void {
  if (!frame) return;
  const names = frame.querySelector("[role=columnheader]")?.clientWidth ?? 0;
  const standings = frame.querySelector("[role=columnheader]:last-child");
  const held = standings && getComputedStyle(standings).position === "sticky" ? standings.clientWidth : 0;
  const [left, room] = [column * width, frame.clientWidth - names - held];
  if (left < frame.scrollLeft) frame.scrollLeft = left;
  else if (left + width > frame.scrollLeft + room) frame.scrollLeft = left + width - room;
}

function categoryWords({ title, share, dropLowest }: TableCategory): string {
  return dropLowest > 0
    ? t("course-gradebook.gradebook-table.category-with-drops", { title, share, count: dropLowest })
    : t("course-gradebook.gradebook-table.category", { title, share });
}

const PICKED = "bg-sheet outline-2 -outline-offset-2 outline-indigo";

interface HeadProps {
  readonly item: TableItem;
  readonly column: number;
  readonly width: number;
  readonly isPicked: boolean;
  readonly onPick: (place: Place) => void;
}

const Head = memo(function Head({ item, column, width, isPicked, onPick }: HeadProps) {
  const more =
    item.awaiting > 0
      ? t("course-gradebook.gradebook-table.await", { count: item.awaiting })
      : item.writing > 0
        ? t("course-gradebook.gradebook-table.write", { count: item.writing })
        : item.mean === null
          ? null
          : t("course-gradebook.gradebook-table.mean", { mean: item.mean });
  return (
    <div
      id={cellId({ row: -1, column })}
      role="columnheader"
      aria-colindex={column + 2}
      className={`flex shrink-0 cursor-default flex-col justify-end px-2.5 pb-1.5 text-right ${isPicked ? PICKED : ""}`}
      style={{ width }}
      onClick={() => onPick({ row: -1, column })}
    >
      <span className="truncate text-sm font-bold" title={item.title}>
        {item.title}
      </span>
      <span className="small truncate">
        {[t("course-gradebook.gradebook-table.out-of", { maximum: item.maximum }), more]
          .filter(Boolean)
          .join(t("joint.dots"))}
      </span>
    </div>
  );
});

interface CellProps {
  readonly student: TableStudent;
  readonly item: TableItem;
  readonly cell: TableCell;
  readonly row: number;
  readonly column: number;
  readonly width: number;
  readonly isPicked: boolean;
  readonly onPick: (place: Place) => void;
}

const Cell = memo(function Cell({ student, item, cell, row, column, width, isPicked, onPick }: CellProps) {
  const figure = cellFigure(cell);
  const isDropped = cell[3]?.includes("dropped") ?? false;
  return (
    <div
      id={cellId({ row, column })}
      role="gridcell"
      aria-colindex={column + 2}
      aria-selected={isPicked}
      aria-label={cellInWords(student, item, cell)}
      className={`flex shrink-0 cursor-default items-center justify-end gap-1.5 overflow-hidden px-2.5 whitespace-nowrap ${isPicked ? PICKED : "hover:bg-sheet"}`}
      style={{ width }}
      onClick={() => onPick({ row, column })}
    >
      {wordsBeside(cell).map((words) => (
        <span
          key={words}
          className={`truncate text-xs ${words === t("course-gradebook.cell-words.late") ? "text-ochre" : "text-indigo"}`}
        >
          {words}
        </span>
      ))}
      {cell[0] === "awaits" && <FillingMoon share={null} size={12} />}
      {figure === null ? (
        <span className="text-sm text-ink-3">{cellWord(cell)}</span>
      ) : (
        <span className={isDropped ? "text-ink-3 line-through" : ""}>{figure}</span>
      )}
    </div>
  );
});

/** "61 – 72.4 %": between what it ends, once all that is handed in is marked. */
export function standingWords({ standing: { low, high } }: TableStudent): string | null {
  if (low === null || high === null) return null;
  return low === high
    ? t("course-gradebook.gradebook-table.per-cent", { figure: low })
    : t("course-gradebook.gradebook-table.per-cent-between", { low, high });
}

interface StandingProps {
  readonly student: TableStudent;
  readonly row: number;
  readonly column: number;
  readonly isPicked: boolean;
  readonly onPick: (place: Place) => void;
}

const Standing = memo(function Standing({ student, row, column, isPicked, onPick }: StandingProps) {
  const words = standingWords(student);
  const { low, high } = student.standing;
  const [from, to] = [Number(low ?? 0), Number(high ?? 0)];
  return (
    <div
      id={cellId({ row, column })}
      role="gridcell"
      aria-colindex={column + 2}
      aria-selected={isPicked}
      aria-label={t("course-gradebook.gradebook-table.standing-of", {
        name: student.name,
        words: words ?? t("course-gradebook.gradebook-table.nothing-yet"),
      })}
      className={`relative flex w-44 shrink-0 flex-1 cursor-default flex-col justify-center px-3 text-right md:sticky md:right-0 ${isPicked ? PICKED : "bg-paper"}`}
      onClick={() => onPick({ row, column })}
    >
      <span className={words === null ? "text-sm text-ink-3" : "font-bold"}>
        {words ?? t("course-gradebook.gradebook-table.nothing-yet")}
        {student.scaled !== null && <span className="small font-normal"> · {student.scaled}</span>}
      </span>
      {words !== null && (
        <span className="relative mt-1 block h-1 bg-sunk" aria-hidden="true">
          <span
            className="absolute inset-y-0 min-w-[2px] bg-indigo"
            style={{ left: `${Math.min(99, from)}%`, width: `${Math.min(100, to) - Math.min(99, from)}%` }}
          />
        </span>
      )}
    </div>
  );
});
