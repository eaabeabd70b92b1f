import { ArrowDown, ArrowUp, X } from "lucide-react";
import type { ReactNode } from "react";
import { type DraftEntry, type DraftSection, movedIn } from "@/core/course/plan-draft";
import { t } from "@/words/t";
import { newName } from "./new-name";
import { PlanText } from "./PlanText";

interface SectionEditorProps {
  readonly section: DraftSection;
  readonly place: number;
  readonly sections: number;
  readonly quizzes: readonly { readonly id: string; readonly title: string }[];
  readonly onChange: (section: DraftSection) => void;
  readonly onMove: (by: 1 | -1) => void;
  readonly onTakeOut: () => void;
}

/** A week or a topic: its title, its first day, and what stands in it. */
export function SectionEditor(props: SectionEditorProps) {
  const { section, place, sections, quizzes, onChange, onMove, onTakeOut } = props;
  const { title, starts, entries } = section;
  const name = title || t("course.section-editor.week-or-topic", { number: place + 1 });
  const set = (change: Partial<DraftSection>) => onChange({ ...section, ...change });
  const setEntry = (entry: DraftEntry) =>
    set({ entries: entries.map((each) => (each.id === entry.id ? entry : each)) });
  const titleOf = (entry: DraftEntry): string =>
    entry.kind === "quiz"
      ? (quizzes.find(({ id }) => id === entry.quizId)?.title ?? "")
      : entry.kind === "note"
        ? t("course.section-editor.a-note")
        : t("course.section-editor.to-read");
  const there = new Set(entries.map((entry) => (entry.kind === "quiz" ? entry.quizId : "")));
  return (
    <fieldset className="mb-8 border-t border-ink pt-3">
      <legend className="sr-only">{name}</legend>
      <div className="flex flex-wrap items-end gap-3">
        <label className="grid min-w-48 flex-1 gap-1">
          <span className="label">{t("course.section-editor.title")}</span>
          <input
            className="field font-read text-lg"
            value={title}
            maxLength={120}
            onChange={({ target }) => set({ title: target.value })}
          />
        </label>
        <label className="grid gap-1">
          <span className="label">{t("course.section-editor.first-day")}</span>
          <input
            type="date"
            className="field w-auto"
            value={starts ?? ""}
            max="9999-12-31"
            onChange={({ target }) => set({ starts: target.value === "" ? null : target.value })}
          />
        </label>
        <Moves
          name={name}
          isFirst={place === 0}
          isLast={place === sections - 1}
          onMove={onMove}
          onTakeOut={onTakeOut}
        />
      </div>
      <ul className="mt-3 grid gap-3">
        {entries.map((entry, i) => (
          <li
            key={entry.id}
            className={`flex flex-wrap items-start gap-3 border-l-[3px] pl-3 ${entry.kind === "note" ? "border-ochre" : entry.kind === "quiz" ? "border-indigo" : "border-line-2"}`}
          >
            <div className="min-w-0 flex-1 basis-64">
              {entry.kind === "quiz" ? (
                <p className="py-2">
                  <span className="small">{t("course.section-editor.quiz")}</span> <b>{titleOf(entry)}</b>
                </p>
              ) : (
                <>
                  <p className="small">{titleOf(entry)}</p>
                  <PlanText
                    text={entry.text}
                    label={t("course.section-editor.of", { what: titleOf(entry), name })}
                    onChange={(text) => setEntry({ ...entry, text })}
                  />
                </>
              )}
            </div>
            <Moves
              name={t("course.section-editor.of", { what: titleOf(entry), name })}
              isFirst={i === 0}
              isLast={i === entries.length - 1}
              onMove={(by) => set({ entries: movedIn(entries, i, by) })}
              onTakeOut={() => set({ entries: entries.filter(({ id }) => id !== entry.id) })}
            />
          </li>
        ))}
      </ul>
      <Additions>
        <select
          className="field w-auto max-w-full"
          aria-label={t("course.section-editor.add-a-quiz-to", { name })}
          value=""
          onChange={({ target }) =>
            set({ entries: [...entries, { id: newName(), kind: "quiz", quizId: target.value }] })
          }
        >
          <option value="">{t("course.section-editor.add-a-quiz")}</option>
          {quizzes
            .filter(({ id }) => !there.has(id))
            .map((quiz) => (
              <option key={quiz.id} value={quiz.id}>
                {quiz.title}
              </option>
            ))}
        </select>
        {(["reading", "note"] as const).map((kind) => (
          <button
            key={kind}
            type="button"
            className="button"
            onClick={() => set({ entries: [...entries, { id: newName(), kind, text: "" }] })}
          >
            {kind === "note"
              ? t("course.section-editor.add-a-note")
              : t("course.section-editor.add-something-to-read")}
          </button>
        ))}
      </Additions>
    </fieldset>
  );
}

const Additions = ({ children }: { readonly children: ReactNode }) => (
  <div className="mt-3 flex flex-wrap items-center gap-2">{children}</div>
);

interface MovesProps {
  readonly name: string;
  readonly isFirst: boolean;
  readonly isLast: boolean;
  readonly onMove: (by: 1 | -1) => void;
  readonly onTakeOut: () => void;
}

function Moves({ name, isFirst, isLast, onMove, onTakeOut }: MovesProps) {
  const deeds = [
    {
      label: t("course.section-editor.earlier", { name }),
      icon: ArrowUp,
      off: isFirst,
      does: () => onMove(-1),
    },
    {
      label: t("course.section-editor.later", { name }),
      icon: ArrowDown,
      off: isLast,
      does: () => onMove(1),
    },
    { label: t("course.section-editor.take-out", { name }), icon: X, off: false, does: onTakeOut },
  ];
  return (
    <span className="flex gap-1">
      {deeds.map(({ label, icon: Icon, off, does }) => (
        <button
          key={label}
          type="button"
          className="button button-quiet grid size-11 place-items-center p-0!"
          aria-label={label}
          title={label}
          disabled={off}
          onClick={does}
        >
          <Icon aria-hidden="true" className="size-4" />
        </button>
      ))}
    </span>
  );
}
