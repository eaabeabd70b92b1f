import type { TimesView } from "@/core/allowances/times-view";
import { Allowances } from "./Allowances";
import { EveryoneForm } from "./EveryoneForm";

/** The times of a quiz: what holds for everyone, and what some were given instead. */
export function Times({ view, zone }: { readonly view: TimesView; readonly zone: string }) {
  return (
    <div className="mt-6" data-ready="true">
      {view.everyone !== null && view.quiz !== null && (
        <EveryoneForm
          quizId={view.quiz.id}
          times={view.everyone}
          students={view.students}
          sections={view.sections}
          zone={zone}
        />
      )}
      <Allowances view={view} zone={zone} />
    </div>
  );
}
