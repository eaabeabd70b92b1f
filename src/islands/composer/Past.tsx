import type { PastQuestion } from "@/core/draft/past-sittings";
import { lengthInWords } from "@/core/time/said-times";
import { say, t } from "@/words/t";

interface PastProps {
  readonly question: PastQuestion;
  readonly quizId: string;
}

/** Correlations from which on a question is said to tell strong from weak so. */
const WELL = 0.35;
const SOME = 0.2;

const degree = (discrimination: number): string =>
  discrimination >= WELL
    ? "well"
    : discrimination >= SOME
      ? "some"
      : discrimination >= 0
        ? "little"
        : "wrong";

/** How a question behaved when it was asked before. */
export function Past({ question, quizId }: PastProps) {
  const { attempts, facility, discrimination, remarkable, time } = question;
  const words = [
    ...(facility === null
      ? []
      : [t("composer.past.earned", { share: Math.round(facility * 100), people: attempts })]),
    ...(discrimination === null
      ? []
      : [
          t("composer.past.tells-strong-from-weak", {
            discrimination: degree(discrimination),
            figure: discrimination.toFixed(2),
          }),
        ]),
    ...(time === null || time < 1_000 ? [] : [say(lengthInWords(Math.round(time / 1000) * 1000))]),
  ];
  return (
    <section aria-labelledby="past">
      <h2 id="past" className="label">
        {t("composer.past.from-past-sittings")}
      </h2>
      <p className="mt-1 text-[0.9375rem]">{words.join(t("joint.semicolons"))}</p>
      {remarkable.map((each) => (
        <p key={JSON.stringify(each)} className="text-[0.9375rem] text-ochre">
          {say(each)}
        </p>
      ))}
      <p className="small mt-1 flex flex-wrap gap-x-4">
        <a className="min-h-6" href={`/quizzes/${quizId}/figures`}>
          {t("composer.past.how-the-questions-behaved")}
        </a>
        <a className="min-h-6" href={`/quizzes/${quizId}/answers/${encodeURIComponent(question.id)}`}>
          {t("composer.past.what-the-class-wrote")}
        </a>
      </p>
    </section>
  );
}
