import { Check, Minus } from "lucide-react";
import { useContext } from "react";
import type { TriedPart } from "@/core/attempt/attempt-progress";
import {
  type Asked,
  askedOf,
  type NumericAnswer,
  type PresentedNumeric,
  type PresentedPart,
} from "@/core/kinds/numeric/answer";
import { say, t } from "@/words/t";
import type { AnswerProps } from "../answer-props";
import { useComposed } from "../composed";
import { PartVerdict } from "../PartVerdict";
import { ContentLanguage } from "../view-contexts";

type Props = AnswerProps<PresentedNumeric, NumericAnswer>;

/** A box for each part, with what is asked of it and how it is read beside it. */
export function NumericView(props: Props) {
  const { slot, question, answer, closedParts, tries, tryCost, checking, onCheckPart, onType, onLeave } =
    props;
  const write = (part: string, text: string) => {
    const parts = { ...answer?.parts, [part]: text };
    const written = Object.fromEntries(Object.entries(parts).filter(([, each]) => each.trim() !== ""));
    onType(
      Object.keys(written).length > 0
        ? { parts: { ...written, ...(text.trim() ? { [part]: text } : {}) } }
        : null,
    );
  };
  const single = question.parts.length === 1;
  return (
    <div className="border-t border-line">
      {question.parts.map((part, i) => (
        <NumberPart
          key={part.id}
          slot={slot}
          question={question}
          part={part}
          text={answer?.parts[part.id] ?? ""}
          single={single}
          closed={closedParts[i] ?? false}
          tried={tries?.[i] ?? null}
          tryCost={tryCost}
          checking={checking}
          onCheck={single || !onCheckPart ? null : () => onCheckPart(i)}
          onWrite={(text) => write(part.id, text)}
          onLeave={onLeave}
        />
      ))}
    </div>
  );
}

interface NumberPartProps {
  readonly slot: number;
  readonly question: PresentedNumeric;
  readonly part: PresentedPart;
  readonly text: string;
  readonly single: boolean;
  readonly closed: boolean;
  readonly tried: TriedPart | null;
  readonly tryCost: string;
  readonly checking: boolean;
  /** Null where this part cannot be checked alone. */
  readonly onCheck: (() => void) | null;
  readonly onWrite: (text: string) => void;
  readonly onLeave: () => void;
}

function NumberPart(props: NumberPartProps) {
  const { slot, question, part, text, single, closed, tried, tryCost, checking, onCheck, onWrite, onLeave } =
    props;
  const id = `slot-${slot}-${part.id}`;
  const field = useComposed(text, onWrite);
  const language = useContext(ContentLanguage);
  const { comma, unitMeanings } = question;
  const asked = text.trim() === "" ? null : askedOf(text, { ...part, comma, unitMeanings });
  return (
    <div className="flex gap-4 border-b border-line py-4">
      {!single && (
        <span className="w-4 shrink-0 pt-0.5 font-bold text-ink-2" aria-hidden="true">
          {part.id}
        </span>
      )}
      <div className="min-w-0 flex-1">
        {!single && (
          <div
            id={`${id}-text`}
            lang={language}
            className="reading mb-2 text-[1.0625rem]"
            // biome-ignore lint/security/noDangerouslySetInnerHtml: sanitised when the quiz was taken in
            dangerouslySetInnerHTML={{ __html: part.text }}
          />
        )}
        {!single && (
          <p className="small -mt-1.5 mb-2">
            {t("kinds.numeric.answer.other", { marks: Number(part.marks) })}
          </p>
        )}
        <div className="flex flex-wrap items-start gap-x-4 gap-y-1.5">
          <input
            id={id}
            className="field w-44! text-lg"
            {...field}
            readOnly={closed}
            onBlur={onLeave}
            autoComplete="off"
            autoCapitalize="off"
            spellCheck={false}
            placeholder={
              part.unitNeeded ? t("kinds.numeric.answer.value-and-unit") : t("kinds.numeric.answer.number")
            }
            aria-labelledby={single ? `question-${slot}` : `${id}-text`}
            aria-describedby={`${id}-asked`}
            aria-invalid={asked?.some(({ met }) => !met) ?? false}
          />
          {part.unit && <span className="pt-2 text-lg">{part.unit}</span>}
          <div id={`${id}-asked`} className="min-w-0 flex-1 basis-56 pt-0.5" aria-live="polite">
            {asked ? <AskedList asked={asked} onWrite={onWrite} /> : <AskedFirst part={part} />}
          </div>
        </div>
        {part.ruleWords && <p className="small mt-1.5">{say(part.ruleWords)}</p>}
        {tried && (onCheck || !single) && (
          <div className="mt-2 flex min-h-8 flex-wrap items-center gap-x-4 gap-y-1 text-sm">
            {onCheck && !closed && (
              <button
                type="button"
                className="button min-h-8! py-0.5!"
                disabled={asked === null || checking}
                onClick={onCheck}
              >
                {t("kinds.numeric.answer.check-wrong-costs", {
                  id: part.id,
                  others:
                    part.buildsOn.length > 0
                      ? t("kinds.numeric.answer.with", { parts: part.buildsOn.join(t("joint.commas")) })
                      : t("kinds.numeric.answer.alone"),
                  tryCost,
                })}
              </button>
            )}
            <PartVerdict tried={tried} />
          </div>
        )}
      </div>
    </div>
  );
}

/** What is asked for, before anything is written. */
function AskedFirst({ part }: { readonly part: PresentedPart }) {
  const words = [
    part.unitNeeded ? t("kinds.numeric.answer.a-number-with-its-unit") : "",
    part.figures > 0 ? t("kinds.numeric.answer.other-zeros-at-the-end-count", { figures: part.figures }) : "",
  ].filter(Boolean);
  return <p className="small pt-2">{words.join(" · ")}</p>;
}

interface AskedListProps {
  readonly asked: readonly Asked[];
  readonly onWrite: (text: string) => void;
}

/** How the text is read, a line for each thing that is asked: in the colour of notices until it is met. */
function AskedList({ asked, onWrite }: AskedListProps) {
  return (
    <ul className="grid gap-0.5 text-[0.8125rem]">
      {asked.map(({ what, met, words, either }) => {
        const Sign = met ? Check : Minus;
        return (
          <li
            key={what}
            className={`flex items-start gap-1.5 ${met ? "text-ink-2" : "font-bold text-ochre"}`}
          >
            <Sign aria-hidden="true" className="mt-0.5 size-3.5 shrink-0" />
            <span>
              <span className="sr-only">{met ? "" : t("kinds.numeric.answer.not-complete")}</span>
              {say(words)}
              {either?.map((each) => (
                <button
                  key={each}
                  type="button"
                  className="button ml-2 min-h-6! px-2! py-0!"
                  onClick={() => onWrite(each)}
                >
                  {each}
                </button>
              ))}
            </span>
          </li>
        );
      })}
    </ul>
  );
}
