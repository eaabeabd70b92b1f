import { useState } from "react";
import type { AllowanceLine, TimesView } from "@/core/allowances/times-view";
import { t } from "@/words/t";
import { dayAndTime } from "@/words/times";
import { AllowanceForm } from "./AllowanceForm";
import { EffectPanel } from "./EffectPanel";

interface AllowancesProps {
  readonly view: TimesView;
  readonly zone: string;
}

/** What is being done: something new given, one changed, one taken back. */
type Doing = { readonly deed: "give" } | { readonly deed: "change" | "take-back"; readonly id: string };

/** What some were given instead of what everyone has: the list, giving, changing, taking back, and what was before. */
export function Allowances({ view, zone }: AllowancesProps) {
  const [doing, setDoing] = useState<Doing | null>(null);
  const { quiz, course, held, past } = view;
  const base =
    quiz === null ? `/api/courses/${course.slug}/allowances` : `/api/quizzes/${quiz.id}/allowances`;
  const back = () => setDoing(null);
  const isMine = (line: AllowanceLine) => (quiz === null ? line.quiz === null : line.quiz !== null);
  return (
    <section className="mt-10 border-t border-ink pt-4">
      <h2 className="font-read text-xl font-medium">
        {quiz === null
          ? t("allowances.allowances.throughout-the-course")
          : t("allowances.allowances.allowances")}
      </h2>
      <p className="small mt-1 max-w-prose">
        {quiz === null
          ? t("allowances.allowances.throughout-words")
          : t("allowances.allowances.in-this-quiz-words")}
      </p>
      {held.length === 0 ? (
        <p className="mt-3 text-ink-2">{t("allowances.allowances.nobody-has-one")}</p>
      ) : (
        <ul className="mt-3 divide-y divide-line border-y border-line">
          {held.map((line) => (
            <li key={line.id} className="py-3">
              <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1">
                <span className="w-56 font-bold">
                  {line.to.name}
                  {"sectionId" in line.to && (
                    <span className="small block font-normal">{t("allowances.allowances.a-section")}</span>
                  )}
                </span>
                <span className="min-w-0 flex-1 basis-64">
                  {line.words.join(t("joint.commas"))}
                  <span className="small block">
                    <Scope line={line} view={view} />
                    {given(line, zone)}
                  </span>
                </span>
                {isMine(line) && (
                  <span className="flex gap-2">
                    <button
                      type="button"
                      className="button"
                      aria-label={t("allowances.allowances.change-that-of", { name: line.to.name })}
                      onClick={() => setDoing({ deed: "change", id: line.id })}
                    >
                      {t("allowances.allowances.change")}
                    </button>
                    <button
                      type="button"
                      className="button"
                      aria-label={t("allowances.allowances.take-back-that-of", { name: line.to.name })}
                      onClick={() => setDoing({ deed: "take-back", id: line.id })}
                    >
                      {t("allowances.allowances.take-back")}
                    </button>
                  </span>
                )}
              </div>
              {doing?.deed === "change" && doing.id === line.id && (
                <AllowanceForm view={view} line={line} path={base} zone={zone} onBack={back} />
              )}
              {doing?.deed === "take-back" && doing.id === line.id && (
                <div className="mt-3 max-w-xl">
                  <TakeBack id={line.id} path={base} zone={zone} onBack={back} />
                </div>
              )}
            </li>
          ))}
        </ul>
      )}
      {doing?.deed === "give" ? (
        <AllowanceForm view={view} line={null} path={base} zone={zone} onBack={back} />
      ) : (
        <button type="button" className="button button-main mt-4" onClick={() => setDoing({ deed: "give" })}>
          {t("allowances.allowances.give-an-allowance")}
        </button>
      )}
      {past.length > 0 && (
        <details className="mt-8">
          <summary className="cursor-pointer py-1 underline">
            {t("allowances.allowances.earlier", { count: past.length })}
          </summary>
          <ul className="mt-2 divide-y divide-line border-y border-line">
            {past.map((line) => (
              <li key={line.id} className="py-2">
                <b>{line.to.name}</b>: {line.words.join(t("joint.commas"))}
                <span className="small block">
                  <Scope line={line} view={view} />
                  {given(line, zone)} {ended(line, zone)}
                </span>
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}

/** For what it holds, where that is not what the page is about. */
function Scope({ line, view }: { readonly line: AllowanceLine; readonly view: TimesView }) {
  if (view.quiz === null && line.quiz !== null)
    return (
      <>
        <a href={`/quizzes/${line.quiz.id}/times`}>{line.quiz.title}</a>
        {". "}
      </>
    );
  if (view.quiz !== null && line.quiz === null)
    return (
      <>
        <a href={`/courses/${view.course.slug}/allowances`}>
          {t("allowances.allowances.throughout", { course: view.course.title })}
        </a>
        {". "}
      </>
    );
  return null;
}

function given({ by, at, reason }: AllowanceLine, zone: string): string {
  const when = dayAndTime(at, zone);
  return by === null
    ? t("allowances.allowances.since", { when, reason })
    : t("allowances.allowances.by-at-why", { by, when, reason });
}

function ended({ ended: end }: AllowanceLine, zone: string): string {
  if (end === null) return "";
  const when = dayAndTime(end.at, zone);
  const by = end.by ?? "–";
  return end.reason === null
    ? t("allowances.allowances.replaced", { by, when })
    : t("allowances.allowances.taken-back", { by, when, reason: end.reason });
}

interface TakeBackProps {
  readonly id: string;
  readonly path: string;
  readonly zone: string;
  readonly onBack: () => void;
}

function TakeBack({ id, path, zone, onBack }: TakeBackProps) {
  const [body] = useState({ id });
  return (
    <EffectPanel
      path={`${path}/take-back`}
      body={body}
      deed={t("allowances.allowances.take-it-back")}
      zone={zone}
      onBack={onBack}
    />
  );
}
