import { useContext } from "react";
import type { GapsAnswer, PresentedGap, PresentedGaps } from "@/core/kinds/gaps/answer";
import { contentInWords } from "@/core/kinds/picks/content";
import { say, t } from "@/words/t";
import type { AnswerProps } from "../answer-props";
import { useComposed } from "../composed";
import { AnswerLanguage, ContentLanguage } from "../view-contexts";

type Props = AnswerProps<PresentedGaps, GapsAnswer>;

interface Piece {
  readonly key: string;
  /** The id of a gap, or null for text between gaps. */
  readonly gap: string | null;
  readonly text: string;
}

/** The text in pieces: what is between the gaps, and the id of each gap. Paragraphs become lines of their own. */
function piecesOf(text: string): Piece[] {
  return text
    .replace(/<\/p>\s*<p>/g, "<br><br>")
    .replace(/^<p>|<\/p>$/g, "")
    .split(/\[\[([^\]]+)\]\]/)
    .map((piece, i) => ({ key: `piece ${i}`, gap: i % 2 === 1 ? piece : null, text: piece }));
}

/** The question's text with its gaps in it. */
export function GapsView({ question, answer, closedParts, onType, onChoose, onLeave }: Props) {
  const write = (gap: PresentedGap, text: string) => {
    const { [gap.id]: _, ...others } = answer?.gaps ?? {};
    const gaps = text === "" ? others : { ...others, [gap.id]: text };
    const next = Object.keys(gaps).length > 0 ? { gaps } : null;
    if (gap.options) onChoose(next);
    else onType(next);
  };
  const language = useContext(ContentLanguage);
  return (
    <div className="reading border-t border-line pt-4 text-[1.1875rem] leading-[2.6]">
      {piecesOf(question.text).map((piece) => {
        const gap = question.gaps.find((each) => each.id === piece.gap);
        return gap ? (
          <GapField
            key={piece.key}
            gap={gap}
            label={t("kinds.gaps.answer.gap-of", {
              indexOf: question.gaps.indexOf(gap) + 1,
              gapsCount: question.gaps.length,
            })}
            text={answer?.gaps[gap.id] ?? ""}
            closed={closedParts[question.gaps.indexOf(gap)] ?? false}
            onWrite={(text) => write(gap, text)}
            onLeave={onLeave}
          />
        ) : (
          // biome-ignore lint/security/noDangerouslySetInnerHtml: sanitised when the quiz was taken in
          <span key={piece.key} lang={language} dangerouslySetInnerHTML={{ __html: piece.text }} />
        );
      })}
    </div>
  );
}

interface GapFieldProps {
  readonly gap: PresentedGap;
  readonly label: string;
  readonly text: string;
  readonly closed: boolean;
  readonly onWrite: (text: string) => void;
  readonly onLeave: () => void;
}

function GapField({ gap, label, text, closed, onWrite, onLeave }: GapFieldProps) {
  const field = useComposed(text, onWrite);
  const language = useContext(AnswerLanguage);
  const shared = "field mx-1 inline-block min-h-9! w-auto! py-1! font-ui text-base";
  if (gap.options) {
    return (
      <select
        className={shared}
        value={text}
        disabled={closed}
        aria-label={label}
        onChange={(event) => onWrite(event.target.value)}
      >
        <option value="">{t("kinds.gaps.answer.choose")}</option>
        {gap.options.map((option) => (
          <option key={option.id} value={option.id}>
            {say(contentInWords(option))}
          </option>
        ))}
      </select>
    );
  }
  return (
    <input
      lang={language}
      className={shared}
      size={Math.min(40, Math.max(12, field.value.length + 1))}
      {...field}
      readOnly={closed}
      aria-label={label}
      onBlur={onLeave}
      autoComplete="off"
      spellCheck
    />
  );
}
