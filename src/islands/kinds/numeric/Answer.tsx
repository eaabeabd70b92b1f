import type { NumericAnswer, PresentedNumeric, PresentedPart } from "@/core/kinds/numeric/answer";
import { LONGEST_NUMBER, readingWords } from "@/core/kinds/numeric/answer";
import type { AnswerProps } from "../answer-props";

/** A box for each part, with how it is read beside it. */
export function NumericView(props: AnswerProps<PresentedNumeric, NumericAnswer>) {
  const { slot, question, answer, closedParts, onType, onLeave } = props;
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
          part={part}
          text={answer?.parts[part.id] ?? ""}
          single={single}
          closed={closedParts[i] ?? false}
          commaIsThousands={question.commaIsThousands}
          onWrite={(text) => write(part.id, text)}
          onLeave={onLeave}
        />
      ))}
    </div>
  );
}

interface NumberPartProps {
  readonly slot: number;
  readonly part: PresentedPart;
  readonly text: string;
  readonly single: boolean;
  readonly closed: boolean;
  readonly commaIsThousands: boolean;
  readonly onWrite: (text: string) => void;
  readonly onLeave: () => void;
}

function NumberPart(props: NumberPartProps) {
  const { slot, part, text, single, closed, commaIsThousands, onWrite, onLeave } = props;
  const id = `slot-${slot}-${part.id}`;
  const reading = text.trim() === "" ? null : readingWords(text, commaIsThousands);
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
            className="reading mb-2 text-[1.0625rem]"
            // biome-ignore lint/security/noDangerouslySetInnerHtml: sanitised when the quiz was taken in
            dangerouslySetInnerHTML={{ __html: part.text }}
          />
        )}
        <div className="flex flex-wrap items-center gap-x-4 gap-y-1.5">
          <input
            id={id}
            className="field w-40! text-lg"
            value={text}
            readOnly={closed}
            onChange={(event) => onWrite(event.target.value)}
            onBlur={onLeave}
            maxLength={LONGEST_NUMBER}
            autoComplete="off"
            autoCapitalize="off"
            spellCheck={false}
            placeholder={part.unitNeeded ? "value and unit" : "number"}
            aria-labelledby={single ? `question-${slot}` : `${id}-text`}
            aria-describedby={`${id}-reading`}
            aria-invalid={reading !== null && !reading.ok}
          />
          {part.unit && <span className="text-lg">{part.unit}</span>}
          <span
            id={`${id}-reading`}
            className={reading && !reading.ok ? "text-sm text-plum" : "small"}
            aria-live="polite"
          >
            {[reading?.words, part.ruleWords].filter(Boolean).join(" · ")}
          </span>
        </div>
      </div>
    </div>
  );
}
