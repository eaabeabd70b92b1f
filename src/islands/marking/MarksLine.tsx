import type { AnswerView } from "@/core/desk/room-view";
import type { HandWork } from "@/core/marking/hand-work";
import { FillingMoon } from "@/ui/FillingMoon";
import { say, t } from "@/words/t";
import type { MarkingNow } from "./marking-of";

interface MarksLineProps {
  readonly answer: AnswerView;
  readonly work: HandWork;
  readonly marking: MarkingNow | null;
  readonly disabled: boolean;
  /** @param words what is done, for its undoing; null: as typed */
  readonly onMarks: (marks: string | null, words: string | null) => void;
  readonly onReason: (reason: string) => void;
  readonly onNext: () => void;
}

/** What an answer comes to: the moon fills as one goes. Without a rubric, and in its place, the marks are typed. */
export function MarksLine({ answer, work, marking, disabled, onMarks, onReason, onNext }: MarksLineProps) {
  const isTyped = work.marks !== null || answer.rubric === null;
  const figure = marking?.ok ? marking.figure : null;
  const left = marking?.ok ? marking.left : 0;
  const wasReturned = answer.returnedVersion !== null;
  return (
    <>
      <div className="mt-4 flex flex-wrap items-center gap-x-4 gap-y-3">
        <FillingMoon share={figure === null ? null : marking?.ok ? marking.share : null} size={30} />
        {isTyped ? (
          <label className="flex items-center gap-2 text-xl">
            <span className="sr-only">{t("marking.marks-line.marks")}</span>
            <input
              data-marks
              className="field h-10 w-24 font-read text-xl"
              inputMode="decimal"
              maxLength={12}
              value={work.marks ?? ""}
              disabled={disabled}
              aria-invalid={marking !== null && !marking.ok}
              aria-describedby="marks-wrong"
              onChange={(event) =>
                onMarks(event.target.value === "" && answer.rubric === null ? null : event.target.value, null)
              }
              onKeyDown={(event) => {
                if (event.key === "Enter" || event.key.toLowerCase() === "n") {
                  event.preventDefault();
                  event.currentTarget.blur();
                  if (marking?.ok) onNext();
                } else if (event.key === "Escape") event.currentTarget.blur();
              }}
            />
            <span className="font-read text-ink-2">
              {t("marking.marks-line.of", { maximum: answer.maximum })}
            </span>
          </label>
        ) : (
          <p className="font-read text-2xl" aria-live="polite">
            {figure === null ? (
              <span className="text-lg text-ink-2">{t("marking.marks-line.nothing-decided-yet")}</span>
            ) : (
              <>
                {figure}{" "}
                <span className="text-xl text-ink-2">
                  {left > 0
                    ? t("marking.marks-line.of-so-far", { maximum: answer.maximum })
                    : t("marking.marks-line.of", { maximum: answer.maximum })}
                </span>
              </>
            )}
          </p>
        )}
        {!isTyped && left > 0 && (
          <span className="small">{t("marking.marks-line.criteria-left", { left })}</span>
        )}
        {answer.rubric && (
          <button
            type="button"
            className="button ml-auto"
            disabled={disabled}
            onClick={() =>
              work.marks === null
                ? onMarks(figure ?? "0", t("marking.marks-line.marks-without-the-rubric"))
                : onMarks(null, t("marking.marks-line.by-the-rubric"))
            }
          >
            {work.marks === null
              ? t("marking.marks-line.marks-without-the-rubric")
              : t("marking.marks-line.by-the-rubric")}
          </button>
        )}
      </div>
      <p id="marks-wrong" role="alert" className="mt-1 text-sm text-plum empty:hidden">
        {marking && !marking.ok ? say(marking.problem) : ""}
      </p>
      {wasReturned && (
        <label className="mt-4 grid gap-1.5">
          <span className="label">{t("marking.marks-line.why-it-changes")}</span>
          <input
            className="field"
            value={work.reason}
            maxLength={500}
            disabled={disabled}
            onChange={(event) => onReason(event.target.value)}
          />
          <span className="small">{t("marking.marks-line.it-was-returned")}</span>
        </label>
      )}
    </>
  );
}
