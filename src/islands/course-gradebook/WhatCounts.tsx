import { useMemo, useState } from "react";
import { type GradebookPlan, sharesOfCourse } from "@/core/gradebook/gradebook-plan";
import type { PlanEffect, PlanVersion } from "@/core/gradebook/plan-effect";
import { shown } from "@/core/numbers/exact";
import { Listening } from "@/ui/Listening";
import { ask, refusalOr } from "@/ui/requests";
import { useLookedOver } from "@/ui/use-looked-over";
import { t } from "@/words/t";
import { dayAndTime } from "@/words/times";
import { CategoryEditor } from "./CategoryEditor";
import { Effect } from "./Effect";
import { asDraft, asSent, newName, withCategory } from "./plan-draft";
import { ScaleEditor } from "./ScaleEditor";

export interface WhatCountsProps {
  readonly slug: string;
  readonly plan: GradebookPlan;
  readonly versions: readonly PlanVersion[];
  /** Quizzes of the course that do not count. */
  readonly quizzes: readonly { readonly id: string; readonly title: string; readonly maximum: string }[];
  readonly zone: string;
}

/** The shares of the course, as figures; empty while a weight is no number. */
function sharesIn({ categories }: GradebookPlan): Map<string, string> {
  try {
    return new Map([...sharesOfCourse(categories)].map(([id, share]) => [id, shown(share)]));
  } catch {
    return new Map();
  }
}

/** What counts in a course: changed with its effect beside it, and done with a reason. */
export function WhatCounts({ slug, plan, versions, quizzes, zone }: WhatCountsProps) {
  const [draft, setDraft] = useState(plan);
  const [reason, setReason] = useState("");
  const [busy, setBusy] = useState(false);
  const path = `/api/courses/${slug}/gradebook/plan`;
  const sent = useMemo(() => JSON.stringify(asSent(draft)), [draft]);
  const isChanged = sent !== JSON.stringify(asSent(plan));
  const looked = useLookedOver<PlanEffect>(
    path,
    isChanged ? JSON.stringify({ plan: JSON.parse(sent) }) : null,
    t("course-gradebook.cell-panel.cannot-be-reached"),
  );
  const { effect } = looked;
  // Why it was not done stands until something else is wished.
  const [refused, setRefused] = useState<{ readonly sent: string; readonly words: string } | null>(null);
  const problem = looked.problem ?? (refused?.sent === sent ? refused.words : null);
  const change = async () => {
    if (effect === null) return;
    setBusy(true);
    try {
      await ask(path, { body: { plan: JSON.parse(sent), reason, expects: effect.expects } });
      location.reload();
    } catch (error) {
      setRefused({ sent, words: refusalOr(error, t("course-gradebook.cell-panel.cannot-be-reached")) });
      setBusy(false);
    }
  };
  const shares = sharesIn(asSent(draft));
  const used = new Set(draft.categories.flatMap(({ items }) => items.map(({ quizId }) => quizId)));
  const offered = quizzes.filter(({ id }) => !used.has(id));
  return (
    <Listening className="mt-6 grid gap-x-12 gap-y-8 lg:grid-cols-[minmax(0,1fr)_22rem]">
      <div>
        {draft.categories.map((category) => (
          <CategoryEditor
            key={category.id}
            category={category}
            share={shares.get(category.id) ?? null}
            draft={draft}
            quizzes={offered}
            onChange={setDraft}
          />
        ))}
        {draft.categories.length === 0 && (
          <p className="font-read text-lg">{t("course-gradebook.gradebook.nothing-counts-yet")}</p>
        )}
        <button
          type="button"
          className="button mt-5"
          onClick={() =>
            setDraft(
              withCategory(draft, {
                id: newName(draft),
                title: "",
                weight: "0",
                mean: "by-points",
                dropLowest: 0,
                items: [],
              }),
            )
          }
        >
          {t("course-gradebook.what-counts.add-a-category")}
        </button>
        <label className="mt-7 flex items-center gap-2.5">
          <input
            type="checkbox"
            className="size-[18px]"
            checked={draft.missingCountsZero}
            onChange={({ target }) => setDraft({ ...draft, missingCountsZero: target.checked })}
          />
          {t("course-gradebook.what-counts.missing-counts-zero")}
        </label>
        <ScaleEditor scale={draft.scale} onChange={(scale) => setDraft({ ...draft, scale })} />
        {versions.length > 0 && (
          <section className="mt-9">
            <h2 className="label">{t("course-gradebook.what-counts.before")}</h2>
            <ol className="mt-1 divide-y divide-line border-y border-line">
              {versions.map((version, i) => (
                <li key={version.number} className="flex flex-wrap items-center justify-between gap-3 py-2">
                  <span className="small min-w-0 flex-1">
                    {version.by === null
                      ? t("course-gradebook.what-counts.as-it-began")
                      : t("course-gradebook.cell-panel.by-at-why", {
                          by: version.by,
                          at: dayAndTime(version.at, zone),
                          reason: version.reason,
                        })}
                  </span>
                  {i > 0 && (
                    <button
                      type="button"
                      className="button"
                      onClick={() => setDraft(asDraft(version.plan, plan))}
                    >
                      {t("course-gradebook.what-counts.look-at-it-again")}
                    </button>
                  )}
                </li>
              ))}
            </ol>
          </section>
        )}
      </div>
      <Effect
        isChanged={isChanged}
        effect={effect}
        problem={problem}
        reason={reason}
        busy={busy}
        onReason={setReason}
        onChange={() => void change()}
        onBack={() => setDraft(plan)}
      />
    </Listening>
  );
}
