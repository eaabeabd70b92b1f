import { type KeyboardEvent, type RefObject, useId, useState } from "react";
import type { TableItem, TableStudent } from "@/core/gradebook/table-data";
import { ask, refusalOr } from "@/ui/requests";
import { t } from "@/words/t";

type Deed = "marks" | "excuse" | "as-the-work";

interface SetMarkProps {
  readonly slug: string;
  readonly item: TableItem;
  readonly personIds: readonly string[];
  readonly seen: number;
  /** Whom it is about; null: several. */
  readonly name: string | null;
  /** What was typed in the table; else what stands there now. */
  readonly typed: string;
  readonly now: string;
  /** Whether something set by hand can be taken back. */
  readonly isSet: boolean;
  /** Only those who have nothing in it. */
  readonly onlyEmpty?: boolean;
  readonly field: RefObject<HTMLInputElement | null>;
  readonly onSet: (students: readonly TableStudent[], changed: number) => void;
  readonly onLeave: () => void;
}

/** Sets a mark, excuses, or takes back what was set, with a reason that the student reads. */
export function SetMark(props: SetMarkProps) {
  const {
    slug,
    item,
    personIds,
    seen,
    name,
    typed,
    now,
    isSet,
    onlyEmpty = false,
    field,
    onSet,
    onLeave,
  } = props;
  const id = useId();
  const [written, setWritten] = useState<string | null>(null);
  const [reason, setReason] = useState("");
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const marks = written ?? (typed || (now.includes("?") ? "" : now));
  const go = async (deed: Deed) => {
    if (reason.trim() === "") {
      setProblem(t("course-gradebook.set-mark.say-why-first"));
      document.getElementById(`${id}-reason`)?.focus();
      return;
    }
    setBusy(true);
    setProblem(null);
    try {
      const body = {
        itemId: item.id,
        personIds,
        deed,
        reason,
        seen,
        ...(deed === "marks" ? { marks } : {}),
        ...(onlyEmpty ? { onlyEmpty } : {}),
      };
      const { changed, students } = await ask<{ changed: number; students: TableStudent[] }>(
        `/api/courses/${slug}/gradebook/set`,
        { body },
      );
      setReason("");
      setWritten(null);
      onSet(students, changed);
      if (name !== null) onLeave();
    } catch (error) {
      setProblem(refusalOr(error, t("course-gradebook.cell-panel.cannot-be-reached")));
    }
    setBusy(false);
  };
  const keys = (event: KeyboardEvent, next: () => void) => {
    if (event.key === "Escape") onLeave();
    else if (event.key === "Enter" && !event.nativeEvent.isComposing) {
      event.preventDefault();
      next();
    }
  };
  return (
    <div>
      <p className="label">
        {name === null
          ? t("course-gradebook.set-mark.set-for-all")
          : t("course-gradebook.set-mark.set-another-mark")}
      </p>
      <div className="mt-1.5 flex items-center gap-2">
        <input
          ref={field}
          className="field w-24 text-right"
          inputMode="decimal"
          aria-label={t("course-gradebook.set-mark.marks-out-of", { maximum: item.maximum })}
          value={marks}
          maxLength={12}
          onChange={(event) => setWritten(event.target.value)}
          onKeyDown={(event) => keys(event, () => document.getElementById(`${id}-reason`)?.focus())}
        />
        <span className="small whitespace-nowrap">
          {t("course-gradebook.gradebook-table.out-of", { maximum: item.maximum })}
        </span>
        <input
          id={`${id}-reason`}
          className="field min-w-0 flex-1"
          placeholder={
            name === null
              ? t("course-gradebook.set-mark.the-reason")
              : t("course-gradebook.set-mark.the-reason-told-to", { name })
          }
          aria-label={
            name === null
              ? t("course-gradebook.set-mark.the-reason")
              : t("course-gradebook.set-mark.the-reason-told-to", { name })
          }
          value={reason}
          maxLength={500}
          onChange={(event) => setReason(event.target.value)}
          onKeyDown={(event) => keys(event, () => void go("marks"))}
        />
      </div>
      {problem !== null && (
        <p role="alert" className="mt-2 border-l-[3px] border-plum bg-plum-2 px-3 py-1.5 text-sm text-plum">
          {problem}
        </p>
      )}
      <div className="mt-2.5 flex flex-wrap items-center gap-2">
        <button type="button" className="button button-main" disabled={busy} onClick={() => void go("marks")}>
          {t("course-gradebook.set-mark.set")}
        </button>
        {!onlyEmpty && (
          <button type="button" className="button" disabled={busy} onClick={() => void go("excuse")}>
            {t("course-gradebook.set-mark.excuse")}
          </button>
        )}
        {isSet && (
          <button type="button" className="button" disabled={busy} onClick={() => void go("as-the-work")}>
            {t("course-gradebook.set-mark.let-the-work-count")}
          </button>
        )}
      </div>
    </div>
  );
}
