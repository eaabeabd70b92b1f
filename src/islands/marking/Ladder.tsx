import type { AnswerView, RemarkLine } from "@/core/desk/room-view";
import { mostOf, pointsIn, type RubricCriterion } from "@/core/kinds/rubric";
import type { HandWork } from "@/core/marking/hand-work";
import { shown } from "@/core/numbers/exact";
import { t } from "@/words/t";
import { RemarkField } from "./RemarkField";

interface LadderProps {
  readonly answer: AnswerView;
  readonly work: HandWork;
  readonly disabled: boolean;
  /** The criterion that the number keys pick levels of. */
  readonly current: number;
  readonly remarks: readonly RemarkLine[];
  /** The criterion of which more is asked for: points between its levels, and a remark. */
  readonly more: string | null;
  readonly onMore: (criterion: string | null) => void;
  readonly onPick: (criterion: RubricCriterion, level: string) => void;
  readonly onPoints: (criterion: RubricCriterion, points: string) => void;
  readonly onRemark: (criterion: RubricCriterion, remark: string) => void;
  readonly onUsed: (remark: RemarkLine) => void;
}

/** The rubric as a ladder of levels for each criterion: one is picked by a press or a key. */
export function Ladder(props: LadderProps) {
  const { answer, work, disabled, current, remarks } = props;
  const criteria = answer.rubric?.criteria ?? [];
  const isWide = criteria.every(({ levels }) => levels.length <= 4);
  return (
    <div className="sheet divide-y divide-line overflow-hidden" lang={answer.language}>
      {criteria.map((criterion, row) => {
        const decided = work.criteria[criterion.id];
        const points = safePoints(criterion, decided);
        const isHere = row === current;
        const isMore =
          props.more === criterion.id || decided?.remark !== undefined || decided?.points !== undefined;
        return (
          <fieldset
            key={criterion.id}
            disabled={disabled}
            className={isWide ? "sm:grid sm:grid-cols-[9rem_minmax(0,1fr)]" : ""}
            data-criterion={criterion.id}
          >
            <legend className="sr-only">
              {t("marking.ladder.criterion-of-points", {
                title: criterion.title,
                most: shown(mostOf(criterion)),
              })}
            </legend>
            <div
              className={`flex items-baseline gap-x-3 gap-y-0.5 bg-margin px-3.5 py-2.5 sm:flex-col ${isHere ? "shadow-[inset_3px_0_0_var(--indigo)]" : ""}`}
            >
              <span className="font-bold" aria-hidden="true">
                {criterion.title}
              </span>
              <span className="small" aria-hidden="true">
                {t("marking.ladder.points", { most: shown(mostOf(criterion)) })}
              </span>
              {!isMore && (
                <button
                  type="button"
                  className="small min-h-6 text-left underline"
                  onClick={() => props.onMore(criterion.id)}
                >
                  {t("marking.ladder.points-or-a-remark")}
                  <span className="sr-only"> {criterion.title}</span>
                </button>
              )}
            </div>
            <div className="flex flex-col">
              <div
                className="grid flex-1 gap-px bg-line sm:auto-cols-fr sm:grid-flow-col max-sm:grid-cols-1"
                role="radiogroup"
                aria-label={criterion.title}
              >
                {criterion.levels.map((level, i) => {
                  const isPicked = decided?.points === undefined && decided?.level === level.id;
                  return (
                    <label
                      key={level.id}
                      className={`relative block cursor-pointer px-3 py-2.5 has-[:focus-visible]:outline-2 has-[:focus-visible]:-outline-offset-2 has-[:focus-visible]:outline-indigo ${isPicked ? "bg-indigo-2 shadow-[inset_0_-3px_0_var(--indigo)]" : "bg-sheet hover:bg-indigo-2/60"}`}
                    >
                      <input
                        className="sr-only"
                        type="radio"
                        name={`level-${criterion.id}`}
                        checked={isPicked}
                        onChange={() => props.onPick(criterion, level.id)}
                      />
                      <span className="flex items-start justify-between gap-2">
                        <b>{shown(level.points)}</b>
                        {isHere && i < 9 && (
                          <span className="key" aria-hidden="true">
                            {i + 1}
                          </span>
                        )}
                      </span>
                      <span className={`block text-[0.8125rem] leading-snug ${isPicked ? "" : "text-ink-2"}`}>
                        {level.title}
                      </span>
                    </label>
                  );
                })}
              </div>
              {isMore && (
                <div className="grid gap-2 border-t border-line px-3 py-2.5">
                  <label className="small flex items-center gap-2">
                    {t("marking.ladder.points-between-the-levels")}
                    <input
                      className="field h-8 min-h-0 w-20 px-2 py-0 text-sm"
                      inputMode="decimal"
                      maxLength={12}
                      value={decided?.points ?? ""}
                      aria-label={t("marking.ladder.points-for", { title: criterion.title })}
                      aria-invalid={points === undefined}
                      onChange={(event) => props.onPoints(criterion, event.target.value)}
                    />
                    {points === undefined && (
                      <span role="alert" className="text-plum">
                        {t("marking.ladder.from-0-to", { most: shown(mostOf(criterion)) })}
                      </span>
                    )}
                  </label>
                  <RemarkField
                    label={t("marking.ladder.remark-on", { title: criterion.title })}
                    hidesLabel
                    rows={1}
                    value={decided?.remark ?? ""}
                    placeholder={t("marking.ladder.what-the-student-reads-at")}
                    disabled={disabled}
                    remarks={remarks}
                    onChange={(remark) => props.onRemark(criterion, remark)}
                    onUsed={props.onUsed}
                  />
                </div>
              )}
            </div>
          </fieldset>
        );
      })}
    </div>
  );
}

/** The points of a criterion; null: nothing is decided; undefined: what was typed is no points of it. */
function safePoints(criterion: RubricCriterion, decided: HandWork["criteria"][string] | undefined) {
  try {
    const points = pointsIn(criterion, decided);
    if (points === null) return null;
    return points.compare(0) < 0 || points.compare(mostOf(criterion)) > 0 ? undefined : points;
  } catch {
    return undefined;
  }
}
