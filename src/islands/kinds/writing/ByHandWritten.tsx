import type { MarkedByHand } from "@/core/kinds/marked-by-person";
import { rubricMaximum } from "@/core/kinds/rubric";
import { shown } from "@/core/numbers/exact";
import { t } from "@/words/t";
import { Mistake, numberOrText } from "./fields";
import { RubricWritten } from "./RubricWritten";
import { stepNames } from "./step-names";
import { WrittenText } from "./WrittenText";

interface ByHandWrittenProps<Q extends MarkedByHand> {
  readonly question: Q;
  readonly field: string;
  readonly language: string | undefined;
  readonly mistakes: ReadonlyMap<string, string>;
  readonly newName: (letter: string) => string;
  readonly onChange: (next: Q, words: string, typedIn?: string) => void;
}

const sumOf = (rubric: MarkedByHand["rubric"]): string | null => {
  try {
    return rubric ? shown(rubricMaximum(rubric)) : null;
  } catch {
    return null;
  }
};

/** What a person marks by: a rubric, and what a good answer holds. */
export function ByHandWritten<Q extends MarkedByHand>(props: ByHandWrittenProps<Q>) {
  const { question, field, language, mistakes, newName, onChange } = props;
  const most = sumOf(question.rubric);
  const misfit = mistakes.get("");
  return (
    <div className="grid gap-4">
      <section>
        <h3 className="label">{t("compose.by-hand-written.how-it-is-marked")}</h3>
        <RubricWritten
          rubric={question.rubric}
          field={field}
          language={language}
          mistakes={mistakes}
          newName={newName}
          onChange={(rubric, words, typedIn) => {
            const { rubric: _, ...rest } = question;
            // The best levels make the marks of the question: one figure, written in one place.
            const most = sumOf(rubric);
            const marks = most === null ? {} : { marks: numberOrText(most) };
            onChange({ ...rest, ...(rubric ? { rubric, ...marks } : {}) } as Q, words, typedIn);
          }}
        />
        {most !== null && (
          <p className="small mt-1">{t("compose.by-hand-written.best-levels-make", { most })}</p>
        )}
        <Mistake words={misfit} />
      </section>
      <section>
        <h3 className="label">{t("compose.by-hand-written.what-a-good-answer-holds")}</h3>
        <WrittenText
          text={question.model ?? ""}
          label={t("compose.by-hand-written.what-a-good-answer-holds")}
          language={language}
          mistake={mistakes.get("model")}
          onChange={(model) => {
            const { model: _, ...rest } = question;
            onChange((model === "" ? rest : { ...rest, model }) as Q, stepNames.typing(), `${field} model`);
          }}
        />
      </section>
    </div>
  );
}
