import { ArrowUp, X } from "lucide-react";
import type { GradebookPlan, PlannedCategory, PlannedItem } from "@/core/gradebook/gradebook-plan";
import { t } from "@/words/t";
import {
  changeCategory,
  changeItem,
  earlier,
  moveItem,
  newName,
  withItem,
  withoutCategory,
  withoutItem,
} from "./plan-draft";

interface CategoryEditorProps {
  readonly category: PlannedCategory;
  /** Of the course, in per cent; null: a weight is no number. */
  readonly share: string | null;
  readonly draft: GradebookPlan;
  /** Quizzes that could be added. */
  readonly quizzes: readonly { readonly id: string; readonly title: string; readonly maximum: string }[];
  readonly onChange: (draft: GradebookPlan) => void;
}

/** A category: what it is called, what it weighs, how it is worked out, and its work. */
export function CategoryEditor({ category, share, draft, quizzes, onChange }: CategoryEditorProps) {
  const { id, title, weight, mean, dropLowest, items } = category;
  const set = (change: Partial<PlannedCategory>) => onChange(changeCategory(draft, id, change));
  return (
    <fieldset className="mb-7 border-t border-ink pt-3">
      <legend className="sr-only">{title || t("course-gradebook.category-editor.a-category")}</legend>
      <div className="flex flex-wrap items-end gap-3">
        <label className="grid min-w-48 flex-1 gap-1">
          <span className="label">{t("course-gradebook.category-editor.a-category")}</span>
          <input
            className="field font-read text-lg"
            value={title}
            maxLength={120}
            onChange={({ target }) => set({ title: target.value })}
          />
        </label>
        <label className="grid gap-1">
          <span className="label">{t("course-gradebook.category-editor.weight")}</span>
          <span className="flex items-center gap-2">
            <input
              className="field w-20 text-right"
              inputMode="decimal"
              value={weight}
              maxLength={11}
              onChange={({ target }) => set({ weight: target.value })}
            />
            <span className="small w-20">
              {share === null ? "" : t("course-gradebook.category-editor.share", { share })}
            </span>
          </span>
        </label>
        <label className="grid gap-1">
          <span className="label">{t("course-gradebook.category-editor.lowest-dropped")}</span>
          <input
            type="number"
            className="field w-20 text-right"
            min={0}
            max={50}
            value={dropLowest}
            onChange={({ target }) =>
              set({ dropLowest: Math.max(0, Math.min(50, Math.trunc(Number(target.value)) || 0)) })
            }
          />
        </label>
        <label className="grid gap-1">
          <span className="label">{t("course-gradebook.category-editor.worked-out")}</span>
          <select
            className="field w-auto"
            value={mean}
            onChange={({ target }) => set({ mean: target.value === "equal" ? "equal" : "by-points" })}
          >
            <option value="by-points">{t("course-gradebook.category-editor.by-points")}</option>
            <option value="equal">{t("course-gradebook.category-editor.equal")}</option>
          </select>
        </label>
      </div>
      <ul className="mt-3 divide-y divide-line border-y border-line">
        {items.map((item, i) => (
          <ItemEditor
            key={item.id}
            item={item}
            isFirst={i === 0}
            categoryId={id}
            draft={draft}
            onChange={onChange}
          />
        ))}
        {items.length === 0 && (
          <li className="small py-2">{t("course-gradebook.category-editor.no-work")}</li>
        )}
      </ul>
      <div className="mt-2 flex flex-wrap gap-2">
        <button
          type="button"
          className="button"
          onClick={() =>
            onChange(
              withItem(draft, id, {
                id: newName(draft),
                title: "",
                maximum: "10",
                quizId: null,
                fullForTakingPart: false,
                standsInFor: null,
              }),
            )
          }
        >
          {t("course-gradebook.category-editor.add-work-elsewhere")}
        </button>
        {quizzes.length > 0 && (
          <select
            className="field w-auto"
            aria-label={t("course-gradebook.category-editor.add-a-quiz")}
            value=""
            onChange={({ target }) => {
              const quiz = quizzes.find((each) => each.id === target.value);
              if (quiz)
                onChange(
                  withItem(draft, id, {
                    id: newName(draft),
                    title: quiz.title,
                    maximum: quiz.maximum,
                    quizId: quiz.id,
                    fullForTakingPart: false,
                    standsInFor: null,
                  }),
                );
            }}
          >
            <option value="">{t("course-gradebook.category-editor.add-a-quiz")}</option>
            {quizzes.map((quiz) => (
              <option key={quiz.id} value={quiz.id}>
                {quiz.title}
              </option>
            ))}
          </select>
        )}
        {items.length === 0 && (
          <button
            type="button"
            className="button button-quiet"
            onClick={() => onChange(withoutCategory(draft, id))}
          >
            {t("course-gradebook.category-editor.take-category-out")}
          </button>
        )}
      </div>
    </fieldset>
  );
}

interface ItemEditorProps {
  readonly item: PlannedItem;
  readonly isFirst: boolean;
  readonly categoryId: string;
  readonly draft: GradebookPlan;
  readonly onChange: (draft: GradebookPlan) => void;
}

function ItemEditor({ item, isFirst, categoryId, draft, onChange }: ItemEditorProps) {
  const { id, title, maximum, quizId, fullForTakingPart, standsInFor } = item;
  const others = draft.categories
    .flatMap(({ items }) => items)
    .filter((other) => other.id !== id && (other.id === standsInFor || !other.standsInFor));
  const set = (change: Partial<PlannedItem>) => onChange(changeItem(draft, id, change));
  const named = title || t("course-gradebook.category-editor.new-work");
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1.5">
      <input
        className="field min-w-40 flex-1"
        aria-label={t("course-gradebook.category-editor.title-of-work")}
        value={title}
        maxLength={120}
        onChange={({ target }) => set({ title: target.value })}
      />
      <label className="flex items-center gap-1.5">
        <span className="small">{t("course-gradebook.category-editor.out-of")}</span>
        <input
          className="field w-20 text-right"
          inputMode="decimal"
          aria-label={t("course-gradebook.category-editor.maximum-of", { title: named })}
          value={maximum}
          maxLength={11}
          onChange={({ target }) => set({ maximum: target.value })}
        />
      </label>
      {quizId !== null && (
        <label className="small flex items-center gap-1.5">
          <input
            type="checkbox"
            className="size-[18px]"
            checked={fullForTakingPart}
            onChange={({ target }) => set({ fullForTakingPart: target.checked })}
          />
          {t("course-gradebook.category-editor.full-for-taking-part")}
        </label>
      )}
      {others.length > 0 && (
        <label className="small flex items-center gap-1.5">
          {t("course-gradebook.category-editor.may-stand-in-for")}
          <select
            className="field w-36"
            aria-label={t("course-gradebook.category-editor.what-may-stand-in", { title: named })}
            value={standsInFor ?? ""}
            onChange={({ target }) => set({ standsInFor: target.value === "" ? null : target.value })}
          >
            <option value="">{t("course-gradebook.category-editor.nothing")}</option>
            {others.map((other) => (
              <option key={other.id} value={other.id}>
                {other.title || t("course-gradebook.category-editor.new-work")}
              </option>
            ))}
          </select>
        </label>
      )}
      <select
        className="field w-36"
        aria-label={t("course-gradebook.category-editor.category-of", { title: named })}
        value={categoryId}
        onChange={({ target }) => onChange(moveItem(draft, id, target.value))}
      >
        {draft.categories.map((each) => (
          <option key={each.id} value={each.id}>
            {each.title || t("course-gradebook.category-editor.a-category")}
          </option>
        ))}
      </select>
      <button
        type="button"
        className="button button-quiet px-2"
        disabled={isFirst}
        aria-label={t("course-gradebook.category-editor.move-up", { title: named })}
        onClick={() => onChange(earlier(draft, id))}
      >
        <ArrowUp size={16} aria-hidden="true" />
      </button>
      <button
        type="button"
        className="button button-quiet px-2"
        aria-label={t("course-gradebook.category-editor.take-out", { title: named })}
        onClick={() => onChange(withoutItem(draft, id))}
      >
        <X size={16} aria-hidden="true" />
      </button>
    </li>
  );
}
