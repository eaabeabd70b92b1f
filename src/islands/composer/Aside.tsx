import { useMemo } from "react";
import { NO_ALLOWANCE } from "@/core/attempt/deadline";
import { isStrong } from "@/core/brief/phrases";
import { ruleSentences } from "@/core/brief/rule-sentences";
import { termsOfQuiz } from "@/core/brief/rule-terms";
import { RULES } from "@/core/draft/pieces";
import { stepWords } from "@/core/draft/step-words";
import type { Step } from "@/core/draft/to-put-right";
import type { splitFile } from "@/core/quiz/quiz-file";
import { say, t } from "@/words/t";
import type { ComposerState, ComposerStore } from "./composer-store";
import { stepPlace } from "./step-place";

interface AsideProps {
  readonly store: ComposerStore;
  readonly state: ComposerState;
}

/** A quiz as it would be assigned, of which everything can be counted. */
export type Counted = ReturnType<typeof splitFile>;

interface SentencesProps {
  readonly store: ComposerStore;
  /** Null: something in it cannot be counted yet. */
  readonly counted: Counted | null;
  readonly zone: string;
}

/** What is to be put right, each a step to its place. */
export function StepsList({ store, state }: AsideProps) {
  const { steps } = state;
  if (steps === null) return <p className="small">{t("composer.aside.looking-through")}</p>;
  const must = steps.filter((step) => step.must);
  const looks = steps.filter((step) => !step.must);
  return (
    <section aria-labelledby="to-put-right">
      <h2 id="to-put-right" className="label">
        {must.length === 0
          ? t("composer.aside.nothing-to-put-right")
          : t("composer.aside.to-put-right", { count: must.length })}
      </h2>
      <StepLines store={store} state={state} steps={must} />
      {looks.length > 0 && (
        <details className="mt-2">
          <summary className="small min-h-6 cursor-pointer">
            {t("composer.aside.worth-another-look", { count: looks.length })}
          </summary>
          <StepLines store={store} state={state} steps={looks} />
        </details>
      )}
    </section>
  );
}

function StepLines({ store, state, steps }: AsideProps & { readonly steps: readonly Step[] }) {
  return (
    <ol className="mt-1">
      {steps.map((step, i) => {
        const place = stepPlace(state.pieces, step);
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: steps are a list that is made anew
          <li key={i} className="border-b border-line">
            <button
              type="button"
              className="block w-full py-1.5 text-left text-[0.875rem] hover:text-indigo"
              onClick={() => {
                store.go(place.here);
                // Once it is on the screen.
                requestAnimationFrame(() =>
                  requestAnimationFrame(() => {
                    const wrong = document.querySelector<HTMLElement>("#composed [data-mistake]");
                    const field = wrong?.querySelector<HTMLElement>(
                      "input, select, textarea, [role=textbox]",
                    );
                    (field ?? document.getElementById("composed"))?.focus();
                    wrong?.scrollIntoView({ block: "center" });
                  }),
                );
              }}
            >
              <span className="small block">{place.name}</span>
              <span className={step.must ? "text-plum" : ""}>{say(stepWords(step))}</span>
            </button>
          </li>
        );
      })}
    </ol>
  );
}

/** The sentences that students will read, made from the rules as they stand. */
export function Sentences({ store, counted, zone }: SentencesProps) {
  const rules = useMemo(
    () =>
      counted &&
      ruleSentences(
        termsOfQuiz({
          ...counted,
          window: { opens: null, due: null, closes: null },
          allowance: NO_ALLOWANCE,
          used: null,
          first: undefined,
          now: 0,
          zone,
          say,
        }),
      ),
    [counted, zone],
  );
  return (
    <section aria-labelledby="students-read">
      <h2 id="students-read" className="label">
        {t("composer.aside.what-students-will-read")}
      </h2>
      {rules === null ? (
        <p className="small mt-1">{t("composer.aside.once-it-is-right")}</p>
      ) : (
        <dl className="mt-1 border-t border-line text-[0.9375rem]">
          {rules.map((rule) => (
            <div key={JSON.stringify(rule.name)} className="border-b border-line py-1.5">
              <dt className="small">{say(rule.name)}</dt>
              <dd className="font-read">
                {rule.text.map((phrase) =>
                  isStrong(phrase) ? <b key={JSON.stringify(phrase)}>{say(phrase.strong)}</b> : say(phrase),
                )}
              </dd>
            </div>
          ))}
        </dl>
      )}
      <p className="mt-2">
        <button type="button" className="button" onClick={() => store.go({ kind: "piece", slot: RULES })}>
          {t("composer.aside.change-the-rules")}
        </button>
      </p>
    </section>
  );
}
