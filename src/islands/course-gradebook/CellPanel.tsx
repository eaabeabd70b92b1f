import { type RefObject, useEffect, useState } from "react";
import type { CellAttempt, CellSet, CellStory } from "@/core/gradebook/cell-story";
import type { TableItem, TableStudent } from "@/core/gradebook/table-data";
import { ask, refusalOr } from "@/ui/requests";
import { t } from "@/words/t";
import { dayAndTime } from "@/words/times";
import { cellFigure } from "./cell-words";
import { SetMark } from "./SetMark";

/** A story is asked for once somebody stays at a cell so long, in ms. */
const STAYS = 150;

interface CellPanelProps {
  readonly slug: string;
  readonly student: TableStudent;
  readonly item: TableItem;
  readonly column: number;
  readonly zone: string;
  /** What was typed in the table. */
  readonly typed: string;
  readonly field: RefObject<HTMLInputElement | null>;
  readonly onSet: (students: readonly TableStudent[], changed: number) => void;
  readonly onLeave: () => void;
}

/** Everything about one student's mark for one piece of work, and what can be done with it. */
export function CellPanel(props: CellPanelProps) {
  const { slug, student, item, column, zone, typed, field, onSet, onLeave } = props;
  const [story, setStory] = useState<CellStory | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const cell = student.cells[column];
  // What stands in the cell is part of the story: once it changes, the story is told anew.
  const stands = JSON.stringify(cell);
  useEffect(() => {
    setProblem(null);
    const later = setTimeout(() => {
      ask<CellStory>(`/api/courses/${slug}/gradebook/cell?student=${student.id}&item=${item.id}`)
        .then((found) => stands && setStory(found))
        .catch((error) => setProblem(refusalOr(error, t("course-gradebook.cell-panel.cannot-be-reached"))));
    }, STAYS);
    return () => clearTimeout(later);
  }, [slug, student.id, item.id, stands]);
  const own = story?.studentId === student.id && story.itemId === item.id ? story : null;
  const newest = own?.attempts.findLast(({ handedInAt }) => handedInAt !== null);
  const figure = cell && cellFigure(cell);
  return (
    <div className="grid gap-x-10 gap-y-4 md:grid-cols-[minmax(0,16rem)_minmax(0,1fr)_minmax(0,21rem)]">
      <div>
        <p className="label">{student.name}</p>
        <h2 className="mt-0.5 font-read text-xl leading-snug font-medium">{item.title}</h2>
        <p className="small mt-1">
          {own === null
            ? t("course-gradebook.cell-panel.one-moment")
            : own.counts === null
              ? t("course-gradebook.cell-panel.marked-elsewhere")
              : attemptsWords(own)}
        </p>
        {newest && (
          <a className="button mt-3" href={`/attempts/${newest.id}/paper?preview`}>
            {t("course-gradebook.cell-panel.open-the-paper")}
          </a>
        )}
      </div>
      <div className="min-w-0">
        <p className="label">{t("course-gradebook.cell-panel.why-this-mark")}</p>
        {problem !== null && <p className="mt-1 text-sm text-plum">{problem}</p>}
        {own !== null && (
          <>
            <ul className="mt-1 divide-y divide-line text-sm">
              {own.attempts.map((attempt) => (
                <AttemptLine key={attempt.id} attempt={attempt} zone={zone} />
              ))}
              {own.set.map((set) => (
                <SetLine key={`${set.at} ${set.what}`} set={set} maximum={item.maximum} zone={zone} />
              ))}
              {own.attempts.length === 0 && own.set.length === 0 && (
                <li className="py-1.5 text-ink-2">{t("course-gradebook.cell-panel.nothing-yet")}</li>
              )}
            </ul>
            {own.computed !== null && (
              <p className="small mt-1.5">
                {t("course-gradebook.cell-panel.the-work-gave", {
                  figure: own.computed,
                  maximum: item.maximum,
                })}
              </p>
            )}
            <p className="small mt-1.5">
              {own.seenByStudent === null
                ? t("course-gradebook.cell-panel.sees-no-mark-yet", { name: student.name })
                : t("course-gradebook.cell-panel.sees", { name: student.name, figure: own.seenByStudent })}
            </p>
          </>
        )}
      </div>
      <SetMark
        key={`${student.id} ${item.id}`}
        slug={slug}
        item={item}
        personIds={[student.id]}
        seen={own?.seen ?? item.seen}
        name={student.name}
        typed={typed}
        now={figure ?? ""}
        isSet={own?.set[0] !== undefined && own.set[0].what !== "as-the-work"}
        field={field}
        onSet={onSet}
        onLeave={onLeave}
      />
    </div>
  );
}

function attemptsWords({ attempts, counts }: CellStory): string {
  const words = t("course-gradebook.cell-panel.attempts", { count: attempts.length });
  if (attempts.length < 2 || counts === null) return words;
  const rule = {
    best: t("course-gradebook.cell-panel.the-best-counts"),
    latest: t("course-gradebook.cell-panel.the-latest-counts"),
    first: t("course-gradebook.cell-panel.the-first-counts"),
    mean: t("course-gradebook.cell-panel.their-mean-counts"),
  }[counts];
  return [words, rule].join(t("joint.dots"));
}

function AttemptLine({ attempt, zone }: { readonly attempt: CellAttempt; readonly zone: string }) {
  const { number, figure, maximum, handedInAt, startedAt, late, counts } = attempt;
  return (
    <li className="flex flex-wrap items-baseline gap-x-3 py-1.5">
      <span className="min-w-24">{t("course-gradebook.cell-panel.attempt", { number })}</span>
      <span className={`min-w-16 text-right ${counts ? "font-bold" : ""}`}>
        {figure === null
          ? t("course-gradebook.cell-words.writing")
          : t("course-gradebook.cell-words.of", { figure, maximum })}
      </span>
      <span className="small">
        {[
          handedInAt === null
            ? t("course-gradebook.cell-panel.begun", { at: dayAndTime(startedAt, zone) })
            : t("course-gradebook.cell-panel.handed-in", { at: dayAndTime(handedInAt, zone) }),
          late,
          attempt.returnedAt === null ? null : t("course-gradebook.cell-panel.returned"),
        ]
          .filter(Boolean)
          .join(t("joint.dots"))}
      </span>
    </li>
  );
}

interface SetLineProps {
  readonly set: CellSet;
  readonly maximum: string;
  readonly zone: string;
}

function SetLine({ set, maximum, zone }: SetLineProps) {
  const what = {
    marks: t("course-gradebook.cell-words.of", { figure: set.marks ?? "", maximum }),
    excused: t("course-gradebook.cell-words.excused"),
    "as-the-work": t("course-gradebook.cell-panel.taken-back"),
  }[set.what];
  return (
    <li className="flex flex-wrap items-baseline gap-x-3 py-1.5">
      <span className="min-w-24">{t("course-gradebook.cell-panel.set-by-hand")}</span>
      <span className="min-w-16 text-right">{what}</span>
      <span className="small min-w-0 break-words">
        {t("course-gradebook.cell-panel.by-at-why", {
          by: set.by,
          at: dayAndTime(set.at, zone),
          reason: set.reason,
        })}
      </span>
    </li>
  );
}
