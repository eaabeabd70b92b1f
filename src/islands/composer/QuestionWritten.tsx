import { Copy, CopyPlus, Trash2 } from "lucide-react";
import { useDeferredValue, useMemo, useState } from "react";
import type { BankLink } from "@/core/draft/pieces";
import { answering } from "@/core/kinds/answering";
import { isSound, present, type Question } from "@/core/kinds/marking";
import { worksOut } from "@/core/kinds/numeric/question";
import { keyFigure } from "@/core/kinds/numeric/right-value";
import { shown } from "@/core/numbers/exact";
import { openSeed } from "@/core/numbers/seeded";
import { say, t } from "@/words/t";
import { composeView } from "../kinds/composing";
import { Further, Mistake, numberOrText, PlainField, textOf } from "../kinds/writing/fields";
import { PictureWritten } from "../kinds/writing/PictureWritten";
import { stepNames } from "../kinds/writing/step-names";
import { WrittenText } from "../kinds/writing/WrittenText";
import { BankStrip } from "./BankStrip";
import type { ComposerStore } from "./composer-store";
import type { DraftDeeds } from "./draft-deeds";
import { kindName } from "./kind-names";
import { LanguageField } from "./LanguageField";
import { RecordingWritten } from "./RecordingWritten";
import { TryKey } from "./TryKey";

interface QuestionWrittenProps {
  readonly store: ComposerStore;
  readonly deeds: DraftDeeds;
  readonly slot: number;
  readonly question: Question;
  /** Its number on the paper. */
  readonly number: number;
  readonly language: string | undefined;
  readonly mistakes: ReadonlyMap<string, string>;
  /** Which of the draws is shown. */
  readonly draw: number;
  /** The values of its drawn numbers in that draw. */
  readonly values: ReadonlyMap<string, string>;
  /** The question of the bank that it is, or was taken from. */
  readonly bank: BankLink | undefined;
  /** Its section draws from a topic of the bank. */
  readonly isDrawn: boolean;
  readonly onDraw: () => void;
  readonly onCopy: () => void;
}

/** The values of a question's drawn numbers and of its keys in one draw. */
export function drawnValues(question: Question, draw: number): ReadonlyMap<string, string> {
  if (question.kind !== "numeric") return NO_VALUES;
  try {
    const { variables, keys } = worksOut(question, openSeed(`draw ${draw}`));
    const values = new Map([...variables].map(([name, { text }]) => [name, text]));
    for (const part of question.parts) {
      const key = keys.get(part.id);
      if (key) values.set(part.id, keyFigure(part, key));
    }
    return values;
  } catch {
    return NO_VALUES;
  }
}

/** What a question is worth, as a number for its words; 0 while it is none. */
export const asNumber = (marks: number | string): number => {
  try {
    return Number(shown(marks));
  } catch {
    return 0;
  }
};

export const NO_VALUES: ReadonlyMap<string, string> = new Map();

/** One question as at the desk, written in its place, with its key beside it. */
export function QuestionWritten(props: QuestionWrittenProps) {
  const { store, deeds, slot, question, number, language, mistakes, draw, values, onDraw, onCopy } = props;
  const { bank, isDrawn } = props;
  const [isTrying, setTrying] = useState(false);
  const View = composeView(question.kind);
  const own = question.language ?? language;
  const seed = useMemo(() => openSeed(`draw ${draw}`), [draw]);
  // What is shown beside what is typed may come a moment later.
  const settled = useDeferredValue(question);
  const how = useMemo(() => {
    if (!isSound(settled, seed)) return null;
    const presented = present(settled, seed);
    return [answering(presented.kind).instruction(presented), presented.scoring ?? ""].map(say).join(" ");
  }, [settled, seed]);
  const change = (next: Question, words: string, typedIn?: string) =>
    deeds.changeQuestion(slot, next, words, typedIn ?? null);
  const set = (name: string, value: unknown, words: string, typedIn?: string) => {
    const { [name as keyof Question]: _, ...rest } = question;
    change(
      (value === undefined || value === "" ? rest : { ...rest, [name]: value }) as Question,
      words,
      typedIn,
    );
  };
  const drawn = question.kind === "numeric" && (question.variables ?? []).length > 0 ? values : null;
  const isMarkedByParts =
    question.kind === "numeric" || ("rubric" in question && question.rubric !== undefined);
  const named = drawn ? (question.kind === "numeric" ? (question.variables ?? []) : []) : [];
  return (
    <section aria-label={t("composer.question-written.question", { number })}>
      <div className="flex flex-wrap items-baseline justify-between gap-x-6 gap-y-1">
        <p className="label">
          {t("composer.question-written.as-at-the-desk", { kind: kindName(question.kind) })}
        </p>
        {drawn && (
          <p className="small">
            {t("composer.question-written.another-draw")}{" "}
            <b className="text-ink">
              {named.map(({ name }) => `${name} ${drawn.get(name) ?? ""}`).join(t("joint.dots"))}
            </b>{" "}
            <button type="button" className="min-h-6 underline" onClick={onDraw}>
              {t("composer.question-written.draw-again")}
            </button>
          </p>
        )}
      </div>
      <BankStrip key={slot} store={store} deeds={deeds} slot={slot} bank={bank} isDrawn={isDrawn} />
      <div className="mt-5 flex flex-col gap-x-8 gap-y-3 sm:flex-row">
        <div className="w-[4.5rem] shrink-0">
          <p className="font-read text-5xl leading-none text-indigo" aria-hidden="true">
            {number}
          </p>
          {question.kind === "declaration" ? null : isMarkedByParts ? (
            <p className="small mt-2">
              {t("composer.question-written.marks", { marks: asNumber(question.marks) })}
            </p>
          ) : (
            <div className="mt-2">
              <PlainField
                label={t("composer.question-written.marks-label")}
                inputMode="decimal"
                maxLength={12}
                value={textOf(question.marks)}
                mistake={mistakes.get("marks")}
                onChange={(text) =>
                  change(
                    { ...question, marks: numberOrText(text) } as Question,
                    stepNames.scoring(),
                    `piece-${slot} marks`,
                  )
                }
              />
            </div>
          )}
        </div>
        <div className="max-w-[43.75rem] min-w-0 flex-1">
          <WrittenText
            key={`text-${slot}`}
            isFirst={question.text === ""}
            className="reading text-[1.1875rem] leading-relaxed"
            text={question.text}
            label={t("composer.question-written.the-question")}
            placeholder={t("composer.question-written.write-the-question")}
            language={own}
            values={values}
            mistake={mistakes.get("text")}
            onChange={(text) =>
              change({ ...question, text } as Question, stepNames.typing(), `piece-${slot} text`)
            }
          />
          {question.figure !== undefined && (
            <PictureWritten
              id={question.figure}
              label={t("composer.question-written.picture-below")}
              mistake={mistakes.get("figure")}
              onPut={({ id }) => set("figure", id, stepNames.picture())}
              onRemove={() => set("figure", undefined, stepNames.picture())}
            />
          )}
          <p className="small mt-1 mb-3 min-h-[1.3em]">{how ?? ""}</p>
          <View
            key={`${question.kind} ${slot}`}
            question={question}
            slot={slot}
            language={own}
            mistakes={mistakes}
            values={values}
            newName={store.newName}
            onChange={change}
          />
          <section className="mt-6 border-t border-line pt-2">
            <button
              type="button"
              className="label min-h-6"
              aria-expanded={isTrying}
              onClick={() => setTrying(!isTrying)}
            >
              {isTrying ? "− " : "+ "}
              {t("composer.question-written.try-the-key")}
            </button>
            {isTrying && (
              <div className="mt-2">
                <TryKey key={slot} question={question} slot={slot} seed={seed} />
              </div>
            )}
          </section>
          <Further
            title={t("composer.question-written.after-it")}
            isOpen={question.worked !== undefined || question.readMore !== undefined}
          >
            <div>
              <span className="label">{t("composer.question-written.worked-answer")}</span>
              <WrittenText
                key={`worked-${slot}`}
                text={question.worked ?? ""}
                label={t("composer.question-written.worked-answer")}
                placeholder={t("composer.question-written.worked-hint")}
                language={own}
                values={values}
                mistake={mistakes.get("worked")}
                onChange={(text) => set("worked", text, stepNames.typing(), `piece-${slot} worked`)}
              />
            </div>
            <div>
              <span className="label">{t("composer.question-written.where-to-read-more")}</span>
              <WrittenText
                key={`more-${slot}`}
                text={question.readMore ?? ""}
                label={t("composer.question-written.where-to-read-more")}
                language={own}
                mistake={mistakes.get("readMore")}
                onChange={(text) => set("readMore", text, stepNames.typing(), `piece-${slot} readMore`)}
              />
            </div>
          </Further>
          <Further title={t("composer.question-written.beside-it")}>
            {question.figure === undefined && (
              <div>
                <span className="label">{t("composer.question-written.picture-below")}</span>
                <PictureWritten
                  id={undefined}
                  label={t("composer.question-written.picture-below")}
                  onPut={({ id }) => set("figure", id, stepNames.picture())}
                  onRemove={() => {}}
                />
              </div>
            )}
            <RecordingWritten
              store={store}
              id={question.recording}
              language={own}
              onPut={(id, slotOf, piece) => {
                // The sound and the question that plays it: one step.
                const next = { ...question, recording: id } as Question;
                deeds.changeQuestion(slot, next, stepNames.picture(), null, [[slotOf, piece]]);
              }}
              onRemove={() => set("recording", undefined, stepNames.picture())}
            />
            <LanguageField
              label={t("composer.question-written.language")}
              value={question.language}
              mistake={mistakes.get("language")}
              onChange={(tag) => set("language", tag, stepNames.typing(), `piece-${slot} language`)}
            />
            <LanguageField
              label={t("composer.question-written.answer-language")}
              value={question.answerLanguage}
              mistake={mistakes.get("answerLanguage")}
              onChange={(tag) =>
                set("answerLanguage", tag, stepNames.typing(), `piece-${slot} answerLanguage`)
              }
            />
          </Further>
          <Mistake words={mistakes.get("id")} />
          <p className="mt-6 flex flex-wrap gap-3 border-t border-line pt-4">
            <button type="button" className="button" onClick={() => deeds.copyBelow(slot)}>
              <CopyPlus aria-hidden="true" className="size-4" /> {t("composer.question-written.copy-below")}
            </button>
            <button type="button" className="button" onClick={onCopy}>
              <Copy aria-hidden="true" className="size-4" /> {t("composer.question-written.copy")}
            </button>
            <button
              type="button"
              className="button"
              disabled={isDrawn && (bank?.follows ?? false)}
              onClick={() => deeds.remove(slot)}
            >
              <Trash2 aria-hidden="true" className="size-4" /> {t("composer.question-written.take-out")}
            </button>
          </p>
        </div>
      </div>
    </section>
  );
}
