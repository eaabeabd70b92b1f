import { useEffect, useState } from "react";
import { type DraftSection, movedIn, type PlanDraft } from "@/core/course/plan-draft";
import { ask, refusalOr } from "@/ui/requests";
import { t } from "@/words/t";
import { newName } from "./new-name";
import { SectionEditor } from "./SectionEditor";

export interface PlanEditorProps {
  readonly slug: string;
  readonly plan: PlanDraft;
  readonly expects: string;
  readonly quizzes: readonly { readonly id: string; readonly title: string }[];
}

/** Writes the plan of a course: weeks and topics with what stands in them. Kept when its writer says so. */
export function PlanEditor({ slug, plan, expects, quizzes }: PlanEditorProps) {
  const [kept, setKept] = useState({ plan, expects });
  const [draft, setDraft] = useState(plan);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [told, setTold] = useState("");
  const isChanged = JSON.stringify(draft) !== JSON.stringify(kept.plan);
  useEffect(() => {
    if (!isChanged) return;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    addEventListener("beforeunload", warn);
    return () => removeEventListener("beforeunload", warn);
  }, [isChanged]);
  const set = (next: PlanDraft) => {
    setDraft(next);
    setTold("");
  };
  const change = (section: DraftSection) =>
    set(draft.map((each) => (each.id === section.id ? section : each)));
  const keep = async () => {
    setBusy(true);
    setProblem(null);
    try {
      const now = await ask<{ plan: PlanDraft; expects: string }>(`/api/courses/${slug}/plan`, {
        body: { sections: draft, expects: kept.expects },
      });
      // What is new has its lasting name now.
      setKept(now);
      setDraft(now.plan);
      setTold(t("course.plan-editor.kept"));
    } catch (error) {
      setProblem(refusalOr(error, t("course.plan-editor.cannot-be-reached")));
    }
    setBusy(false);
  };
  return (
    <div className="mt-6 max-w-[60rem]" data-ready="true">
      {/* While it is being kept nothing is written: what comes back takes its place. */}
      <div inert={busy}>
        {draft.length === 0 && <p className="font-read text-lg">{t("course.plan-editor.nothing-yet")}</p>}
        {draft.map((section, place) => (
          <SectionEditor
            key={section.id}
            section={section}
            place={place}
            sections={draft.length}
            quizzes={quizzes}
            onChange={change}
            onMove={(by) => set(movedIn(draft, place, by))}
            onTakeOut={() => set(draft.filter(({ id }) => id !== section.id))}
          />
        ))}
        <button
          type="button"
          className="button mt-2"
          onClick={() => set([...draft, { id: newName(), title: "", starts: null, entries: [] }])}
        >
          {t("course.plan-editor.add-a-week-or-topic")}
        </button>
      </div>
      <div className="sticky bottom-0 mt-6 flex flex-wrap items-center gap-3 border-t border-ink bg-paper py-4">
        <button
          type="button"
          className="button button-main"
          disabled={busy || !isChanged}
          onClick={() => void keep()}
        >
          {busy ? t("course.plan-editor.one-moment") : t("course.plan-editor.keep-the-plan")}
        </button>
        {isChanged && (
          <button
            type="button"
            className="button button-quiet"
            disabled={busy}
            onClick={() => {
              set(kept.plan);
              setProblem(null);
            }}
          >
            {t("course.plan-editor.leave-it")}
          </button>
        )}
        <span role="status" className={told === "" ? "small" : "text-sm text-moss"}>
          {told === "" && isChanged ? t("course.plan-editor.not-kept-yet") : told}
        </span>
        {problem !== null && (
          <p role="alert" className="w-full border-l-[3px] border-plum bg-plum-2 px-3 py-2 text-plum">
            {problem}
          </p>
        )}
      </div>
    </div>
  );
}
