import { useEffect, useRef } from "react";
import type { PileLine, PileView } from "@/core/desk/room-view";
import { FillingMoon } from "@/ui/FillingMoon";
import { say, t } from "@/words/t";
import { isWaiting, keyOf, type PileFilter, type Place, shownLines } from "./pile-order";

interface PileProps {
  readonly pile: PileView;
  readonly filter: PileFilter;
  readonly here: Place | null;
  readonly onFilter: (change: Partial<PileFilter>) => void;
  readonly onShow: (place: Place) => void;
  readonly onByStudent: (byStudent: boolean) => void;
}

const SHOWS = ["all", "waiting", "late", "mine"] as const;

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

/** The answers that need a person, as one looks at them. */
export function Pile({ pile, filter, here, onFilter, onShow, onByStudent }: PileProps) {
  const lines = shownLines(pile, filter);
  const list = useRef<HTMLOListElement>(null);
  useEffect(() => {
    const current = list.current?.querySelector<HTMLElement>("[aria-current]");
    // Only within the list: the page itself stays where it is.
    if (current && list.current) {
      const top = current.offsetTop - list.current.offsetTop;
      const isSeen =
        top >= list.current.scrollTop &&
        top + current.offsetHeight <= list.current.scrollTop + list.current.clientHeight;
      if (!isSeen) list.current.scrollTop = top - list.current.clientHeight / 3;
    }
  });
  const count = (show: (typeof SHOWS)[number]) => shownLines(pile, { ...filter, show }).length;
  const showWords = {
    all: t("marking.pile.all", { count: count("all") }),
    waiting: t("marking.pile.awaiting", { count: count("waiting") }),
    late: t("marking.pile.late", { count: count("late") }),
    mine: t("marking.pile.given-to-me", { count: count("mine") }),
  };
  const elsewhere = lines.filter(({ openAt }) => openAt !== null);
  return (
    <nav aria-label={t("marking.pile.the-pile")} className="flex min-h-0 flex-col">
      <div className="grid gap-2 border-b border-line px-4 pt-4 pb-3">
        <p className="flex items-baseline justify-between gap-2">
          <span className="label">{t("marking.pile.the-pile")}</span>
          <span className="small">
            {pile.namesHidden ? t("marking.pile.shuffled") : t("marking.pile.by-name")}
          </span>
        </p>
        {pile.questions.length > 1 && (
          <label className="small grid gap-1">
            {t("marking.pile.order")}
            <select
              className="field h-9 min-h-0 py-0 text-sm"
              value={pile.byStudent ? "" : filter.question}
              onChange={(event) => {
                const { value } = event.target;
                if ((value === "") !== pile.byStudent) onByStudent(value === "");
                if (value !== "") onFilter({ question: value });
              }}
            >
              {pile.questions.map(({ id, title, awaiting }) => (
                <option key={id} value={id}>
                  {t("marking.pile.question-with-awaiting", { title, awaiting })}
                </option>
              ))}
              <option value="">{t("marking.pile.all-answers-of-each-student")}</option>
            </select>
          </label>
        )}
        <label className="small grid gap-1">
          {t("marking.pile.show")}
          <select
            className="field h-9 min-h-0 py-0 text-sm"
            value={filter.show}
            onChange={(event) => onFilter({ show: event.target.value as PileFilter["show"] })}
          >
            {SHOWS.filter((show) => show !== "late" || !pile.namesHidden).map((show) => (
              <option key={show} value={show}>
                {showWords[show]}
              </option>
            ))}
          </select>
        </label>
        {pile.sections.length > 0 && (
          <label className="small grid gap-1">
            {t("marking.pile.section")}
            <select
              className="field h-9 min-h-0 py-0 text-sm"
              value={filter.section ?? ""}
              onChange={(event) => onFilter({ section: event.target.value || null })}
            >
              <option value="">{t("marking.pile.all-sections")}</option>
              {pile.sections.map(({ id, title }) => (
                <option key={id} value={id}>
                  {title}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
      {lines.length === 0 ? (
        <p className="px-4 py-4 text-ink-2">{t("marking.pile.nothing-here-to-mark")}</p>
      ) : (
        <ol ref={list} className="min-h-0 flex-1 overflow-y-auto">
          {lines.map((line) => (
            <li key={keyOf(line)} style={{ contentVisibility: "auto", containIntrinsicSize: "auto 3.5rem" }}>
              <button
                type="button"
                aria-current={here !== null && keyOf(here) === keyOf(line) ? "true" : undefined}
                className="flex w-full items-center gap-2.5 border-l-[3px] border-transparent px-3.5 py-2 text-left hover:bg-sheet/60 aria-[current]:border-indigo aria-[current]:bg-sheet"
                onClick={() => onShow({ paper: line.paper, slot: line.slot })}
              >
                <FillingMoon share={shareIn(line)} size={16} />
                <span className="min-w-0 flex-1">
                  <span className={`block truncate ${isWaiting(line) ? "" : "text-ink-2"}`}>
                    {paperName(line)}
                    {pile.byStudent && (
                      <span className="small"> · {t("marking.pile.question", { slot: line.slot })}</span>
                    )}
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
            </li>
          ))}
        </ol>
      )}
      {(elsewhere.length > 0 || pile.empty > 0) && (
        <div className="small grid gap-1 border-t border-line px-4 py-3">
          {elsewhere.slice(0, 3).map((line) => (
            <p key={keyOf(line)}>
              {t("marking.pile.is-open-at", { paper: paperName(line), name: line.openAt ?? "" })}
            </p>
          ))}
          {pile.empty > 0 && <p>{t("marking.pile.were-left-empty", { count: pile.empty })}</p>}
        </div>
      )}
    </nav>
  );
}
