import { useEffect, useRef, useState, useSyncExternalStore } from "react";
import type { TableStudent } from "@/core/gradebook/table-data";
import { t } from "@/words/t";
import { CellPanel } from "./CellPanel";
import { ColumnPanel } from "./ColumnPanel";
import { GradebookTable, standingWords } from "./GradebookTable";
import { type Place, TableStore } from "./table-store";

export interface GradebookProps {
  readonly slug: string;
  readonly title: string;
  readonly zone: string;
}

/** A course's gradebook for those who teach it: the table, and below it everything about what is picked. */
export function Gradebook({ slug, title, zone }: GradebookProps) {
  const [store] = useState(() => new TableStore(slug));
  const state = useSyncExternalStore(store.subscribe, store.state, store.state);
  const { data, items, lines, place, order, failed } = state;
  const [typed, setTyped] = useState("");
  const [told, setTold] = useState("");
  const field = useRef<HTMLInputElement>(null);
  const whole = useRef<HTMLDivElement>(null);
  useEffect(() => {
    void store.load();
    // What others did meanwhile is seen when one comes back.
    const back = () => document.visibilityState === "visible" && void store.load();
    document.addEventListener("visibilitychange", back);
    return () => document.removeEventListener("visibilitychange", back);
  }, [store]);
  const pick = (next: Place) => {
    setTyped("");
    setTold("");
    store.pick(next);
  };
  const type = (figure: string | null) => {
    if (figure !== null) setTyped(figure);
    requestAnimationFrame(() => {
      field.current?.focus();
      if (figure === null) field.current?.select();
    });
  };
  const changed = (students: readonly TableStudent[], count: number) => {
    setTold(t("course-gradebook.set-mark.done", { count }));
    store.changed(students);
  };
  const leave = () => {
    setTyped("");
    whole.current?.querySelector<HTMLElement>("[role=grid]")?.focus({ preventScroll: true });
  };
  if (data === null) {
    return (
      <p className="frame py-6 text-ink-2" role="status">
        {failed
          ? t("course-gradebook.gradebook.could-not-be-fetched")
          : t("course-gradebook.cell-panel.one-moment")}
        {failed && (
          <button type="button" className="button ml-4" onClick={() => void store.load()}>
            {t("course-gradebook.gradebook.try-again")}
          </button>
        )}
      </p>
    );
  }
  const awaiting = items.reduce((sum, item) => sum + item.awaiting, 0);
  const student = place === null || place.row < 0 ? undefined : lines[place.row];
  const item = place === null ? undefined : items[place.column];
  return (
    <div ref={whole} className="flex min-h-0 flex-1 flex-col" data-ready="true">
      <div className="frame flex w-full flex-wrap items-center gap-x-5 gap-y-2 pb-3">
        <p className="small mr-auto">
          {[
            t("course-gradebook.gradebook.students", { count: data.students.length }),
            t("course-gradebook.gradebook.pieces-of-work", { count: items.length }),
            awaiting > 0 ? t("course-gradebook.gradebook.marks-await", { count: awaiting }) : null,
          ]
            .filter(Boolean)
            .join(t("joint.dots"))}
        </p>
        <p role="status" className="text-sm text-moss">
          {told}
        </p>
        {data.sections.length > 0 && (
          <select
            className="field w-auto"
            aria-label={t("course-gradebook.gradebook.section")}
            value={state.section ?? ""}
            onChange={(event) =>
              store.inSection(event.target.value === "" ? null : Number(event.target.value))
            }
          >
            <option value="">{t("course-gradebook.gradebook.all-sections")}</option>
            {data.sections.map((section, i) => (
              <option key={section} value={i}>
                {section}
              </option>
            ))}
          </select>
        )}
        <button
          type="button"
          className="button"
          aria-pressed={order.by === "standing"}
          onClick={() =>
            store.inOrder(
              order.by === "standing" ? { by: "name", fromTop: false } : { by: "standing", fromTop: false },
            )
          }
        >
          {order.by === "name"
            ? t("course-gradebook.gradebook.by-standing")
            : t("course-gradebook.gradebook.by-name")}
        </button>
        <input
          type="search"
          className="field w-48"
          placeholder={t("course-gradebook.gradebook.find-a-student")}
          aria-label={t("course-gradebook.gradebook.find-a-student")}
          value={state.find}
          onChange={(event) => store.find(event.target.value)}
        />
      </div>
      {items.length === 0 || data.students.length === 0 ? (
        <p className="frame py-6 font-read text-lg">
          {items.length === 0
            ? t("course-gradebook.gradebook.nothing-counts-yet")
            : t("course-gradebook.gradebook.nobody-yet")}
        </p>
      ) : lines.length === 0 ? (
        <p className="frame flex-1 py-6 font-read text-lg">
          {t("course-gradebook.gradebook.nobody-is-called", { name: state.find })}
        </p>
      ) : (
        <GradebookTable
          title={t("course-gradebook.gradebook.gradebook-of", { title })}
          categories={data.categories}
          items={items}
          lines={lines}
          place={place}
          onPick={pick}
          onType={type}
        />
      )}
      <section
        aria-label={t("course-gradebook.gradebook.what-is-picked")}
        className="sticky bottom-0 z-30 max-h-[40dvh] shrink-0 overflow-auto border-t border-line-2 bg-margin py-4"
      >
        <div className="frame">
          {student && item && place ? (
            <CellPanel
              slug={slug}
              student={student}
              item={item}
              column={place.column}
              zone={zone}
              typed={typed}
              field={field}
              onSet={changed}
              onLeave={leave}
            />
          ) : student ? (
            <div>
              <p className="label">{student.name}</p>
              <p className="mt-1">
                {t("course-gradebook.gradebook.marked-so-far", {
                  figure: student.standing.soFar === null ? "–" : student.standing.soFar,
                })}
                {t("joint.dots")}
                {t("course-gradebook.gradebook.once-all-is-marked", { words: standingWords(student) ?? "–" })}
              </p>
            </div>
          ) : place && item ? (
            <ColumnPanel
              slug={slug}
              item={item}
              column={place.column}
              lines={lines}
              field={field}
              onOrder={store.inOrder}
              onSet={changed}
              onLeave={leave}
            />
          ) : (
            <p className="small">{t("course-gradebook.gradebook.pick-a-cell")}</p>
          )}
        </div>
      </section>
    </div>
  );
}
