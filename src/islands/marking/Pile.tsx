import type { PileView } from "@/core/desk/room-view";
import { t } from "@/words/t";
import { PileList, paperName } from "./PileList";
import { keyOf, type PileFilter, type Place, shownLines } from "./pile-order";

interface PileProps {
  readonly pile: PileView;
  readonly filter: PileFilter;
  readonly here: Place | null;
  readonly onFilter: (change: Partial<PileFilter>) => void;
  readonly onShow: (place: Place) => void;
  readonly onByStudent: (byStudent: boolean) => void;
}

const SHOWS = ["all", "waiting", "late", "mine"] as const;

/** The answers that need a person, as one looks at them. */
export function Pile({ pile, filter, here, onFilter, onShow, onByStudent }: PileProps) {
  const lines = shownLines(pile, filter);
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
        <PileList lines={lines} here={here} byStudent={pile.byStudent} onShow={onShow} />
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
