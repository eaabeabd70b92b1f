import { useDeferredValue, useMemo, useState } from "react";
import type { Answer } from "@/core/kinds/answering";
import { answering } from "@/core/kinds/answering";
import { isSound, markQuestion, present, type Question } from "@/core/kinds/marking";
import { shown } from "@/core/numbers/exact";
import type { AttemptSeed } from "@/core/numbers/seeded";
import { say, t } from "@/words/t";
import { PicturesOf } from "../kinds/pictures";
import { QuestionLanguages } from "../kinds/QuestionLanguages";
import { answerView } from "../kinds/registry";
import { useAuthorPictures } from "../kinds/writing/author-pictures";
import { drawnInPage } from "./drawn-question";
import { picturesIn } from "./pictures-in";

interface TryKeyProps {
  readonly question: Question;
  readonly slot: number;
  readonly seed: AttemptSeed;
}

const NOTHING = () => {};

/** The question as at the desk: an answer is typed as a student would, and it says how it would be marked and told. */
export function TryKey({ question, slot, seed }: TryKeyProps) {
  const settled = useDeferredValue(question);
  const [answer, setAnswer] = useState<Answer | null>(null);
  const pictures = useAuthorPictures();
  const presented = useMemo(
    () => (isSound(settled, seed) ? drawnInPage(present(settled, seed)) : null),
    [settled, seed],
  );
  const read = presented && answer !== null ? answering(presented.kind).readAnswer(presented, answer) : null;
  const marked = presented && read?.ok ? markQuestion(settled, seed, read.answer) : null;
  if (!presented) return <p className="small">{t("composer.try-key.when-it-is-right")}</p>;
  const View = answerView(presented.kind);
  const isFile = presented.kind === "upload";
  return (
    <QuestionLanguages question={presented}>
      <PicturesOf
        attemptId=""
        pathOf={(id) => pictures.find(id)?.src ?? ""}
        pictures={picturesIn(presented).flatMap((id) => {
          const found = pictures.find(id);
          return found
            ? [{ id, alt: found.alt, width: Math.round(found.aspect * 1_000), height: 1_000 }]
            : [];
        })}
      >
        <h3 id={`question-${slot}`} className="sr-only">
          {t("composer.try-key.your-answer")}
        </h3>
        {isFile ? (
          <p className="small">{t("composer.try-key.files-in-the-trial")}</p>
        ) : (
          <View
            key={question.kind}
            attemptId=""
            slot={slot}
            question={presented}
            answer={read?.ok ? read.answer : null}
            ruledOut={[]}
            pictures={[]}
            closed={false}
            closedParts={[]}
            tries={null}
            tryCost=""
            checking={false}
            files={[]}
            onFile={NOTHING}
            onFileDone={NOTHING}
            onChoose={setAnswer}
            onType={setAnswer}
            onLeave={NOTHING}
            onRuleOut={NOTHING}
          />
        )}
        <div aria-live="polite" className="mt-3">
          {marked && answer !== null && (
            <dl className="grid gap-1.5 border-l-[3px] border-line-2 pl-3">
              {marked.parts.map((part, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: a part is its place
                <div key={i}>
                  <dt className="sr-only">
                    {part.label === null ? t("composer.try-key.the-answer") : say(part.label)}
                  </dt>
                  <dd>
                    {part.label !== null && <b className="mr-2">{say(part.label)}</b>}
                    <b
                      className={
                        part.state === "full" ? "text-moss" : part.state === "none" ? "text-plum" : ""
                      }
                    >
                      {t("composer.try-key.marks-of", {
                        marks: shown(part.marks),
                        maximum: shown(part.maximum),
                      })}
                    </b>{" "}
                    {say(part.why)}
                    {part.difference !== undefined && <> {say(part.difference)}</>}
                    {part.feedback && (
                      <span
                        className="reading mt-0.5 block text-ink-2"
                        // biome-ignore lint/security/noDangerouslySetInnerHtml: the author's own, under a policy that runs nothing
                        dangerouslySetInnerHTML={{ __html: part.feedback }}
                      />
                    )}
                  </dd>
                </div>
              ))}
            </dl>
          )}
          {read && !read.ok && <p className="text-plum">{say(read.problem)}</p>}
        </div>
      </PicturesOf>
    </QuestionLanguages>
  );
}
