import { type RefObject, useState } from "react";
import type { TableItem, TableStudent } from "@/core/gradebook/table-data";
import { t } from "@/words/t";
import { SetMark } from "./SetMark";
import type { Order } from "./table-store";

const EMPTY: readonly string[] = ["missed", "to-come", "not-begun"];

interface ColumnPanelProps {
  readonly slug: string;
  readonly item: TableItem;
  readonly column: number;
  /** Those who are in sight: all, or those who were found. */
  readonly lines: readonly TableStudent[];
  readonly field: RefObject<HTMLInputElement | null>;
  readonly onOrder: (order: Order) => void;
  readonly onSet: (students: readonly TableStudent[], changed: number) => void;
  readonly onLeave: () => void;
}

/** A piece of work for everyone: its ways on, its order, and setting a mark for all of those in sight. */
export function ColumnPanel({ slug, item, column, lines, field, onOrder, onSet, onLeave }: ColumnPanelProps) {
  const [onlyEmpty, setOnlyEmpty] = useState(true);
  const empty = lines.filter(({ cells }) => EMPTY.includes(cells[column]?.[0] ?? ""));
  const isSet = lines.some(
    ({ cells }) => cells[column]?.[0] === "excused" || cells[column]?.[3]?.includes("set"),
  );
  const count = onlyEmpty ? empty.length : lines.length;
  return (
    <div className="grid gap-x-10 gap-y-4 md:grid-cols-[minmax(0,16rem)_minmax(0,1fr)_minmax(0,21rem)]">
      <div>
        <p className="label">{t("course-gradebook.column-panel.a-piece-of-work")}</p>
        <h2 className="mt-0.5 font-read text-xl leading-snug font-medium">{item.title}</h2>
        <p className="small mt-1">
          {[
            t("course-gradebook.gradebook-table.out-of", { maximum: item.maximum }),
            item.mean === null ? null : t("course-gradebook.gradebook-table.mean", { mean: item.mean }),
            item.awaiting > 0 ? t("course-gradebook.gradebook-table.await", { count: item.awaiting }) : null,
            item.quizId === null ? t("course-gradebook.cell-panel.marked-elsewhere") : null,
          ]
            .filter(Boolean)
            .join(t("joint.dots"))}
        </p>
        <div className="mt-3 flex flex-wrap gap-2">
          {item.quizId !== null && (
            <a className="button" href={`/quizzes/${item.quizId}/staff`}>
              {t("course-gradebook.column-panel.to-the-quiz")}
            </a>
          )}
          <button type="button" className="button" onClick={() => onOrder({ by: column, fromTop: true })}>
            {t("course-gradebook.column-panel.highest-first")}
          </button>
          <button type="button" className="button" onClick={() => onOrder({ by: column, fromTop: false })}>
            {t("course-gradebook.column-panel.lowest-first")}
          </button>
        </div>
      </div>
      <fieldset className="min-w-0">
        <legend className="label">{t("course-gradebook.column-panel.for-whom")}</legend>
        {[
          {
            only: true,
            words: t("course-gradebook.column-panel.who-has-nothing", { count: empty.length }),
          },
          { only: false, words: t("course-gradebook.column-panel.everyone-here", { count: lines.length }) },
        ].map(({ only, words }) => (
          <label key={`${only}`} className="mt-1.5 flex items-center gap-2.5 text-sm">
            <input
              type="radio"
              name="for-whom"
              className="size-[18px] accent-indigo"
              checked={onlyEmpty === only}
              onChange={() => setOnlyEmpty(only)}
            />
            {words}
          </label>
        ))}
        <p className="small mt-2">{t("course-gradebook.column-panel.each-of-them-is-told")}</p>
      </fieldset>
      {count === 0 ? (
        <p className="text-sm text-ink-2">{t("course-gradebook.column-panel.nobody")}</p>
      ) : (
        <SetMark
          key={`${item.id} ${onlyEmpty}`}
          slug={slug}
          item={item}
          personIds={(onlyEmpty ? empty : lines).map(({ id }) => id)}
          seen={item.seen}
          name={null}
          typed=""
          now=""
          isSet={!onlyEmpty && isSet}
          onlyEmpty={onlyEmpty}
          field={field}
          onSet={onSet}
          onLeave={onLeave}
        />
      )}
    </div>
  );
}
