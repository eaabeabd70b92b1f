import { useContext, useEffect, useState } from "react";
import type { PracticeQuestion, PracticeTold, PracticeView } from "@/core/desk/practice-view";
import { type Answer, answering, fillOf, headingOf, showsItsText } from "@/core/kinds/answering";
import { capitalized } from "@/core/text/capitalized";
import { ask, refusalOr } from "@/ui/requests";
import { say, t } from "@/words/t";
import { ToldPanel } from "../desk/ToldPanel";
import { Figure, PicturesOf } from "../kinds/pictures";
import { QuestionLanguages } from "../kinds/QuestionLanguages";
import { RecordingPlayer, Stimulus } from "../kinds/QuestionMaterial";
import { QuestionNumber } from "../kinds/QuestionNumber";
import { answerView } from "../kinds/registry";
import { AnswerLanguage, ContentLanguage } from "../kinds/view-contexts";
import { keepDrafts, keptDrafts } from "./drafts";

const NOTHING = () => {};

/** What was missed, once more: each question with values of its own, marked as soon as it is asked for. */
export function Practice({ view }: { readonly view: PracticeView }) {
  const [questions, setQuestions] = useState(view.questions);
  const [ready, setReady] = useState(false);
  useEffect(() => {
    const drafts = keptDrafts(view.runId);
    setQuestions((all) =>
      all.map((each) => (each.told ? each : { ...each, answer: drafts[each.slot] ?? each.answer })),
    );
    setReady(true);
  }, [view.runId]);
  const change = (slot: number, changed: Partial<PracticeQuestion>) =>
    setQuestions((all) => {
      const next = all.map((each) => (each.slot === slot ? { ...each, ...changed } : each));
      const drafts = next.flatMap(({ told, answer, slot: of }) => (told || !answer ? [] : [[of, answer]]));
      keepDrafts(view.runId, Object.fromEntries(drafts));
      return next;
    });
  const left = questions.filter(({ told }) => told === null).length;
  return (
    <ContentLanguage value={view.language}>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-14" data-ready={ready}>
        {questions.map((each) => (
          <PracticeSheet
            key={each.slot}
            view={view}
            question={each}
            onChange={(changed) => change(each.slot, changed)}
          />
        ))}
        <form
          method="post"
          action={`/attempts/${view.attemptId}/practice`}
          className="border-t border-line pt-5"
        >
          <p role="status">
            {left > 0
              ? t("practice.practice.to-go", {
                  countedInWords: capitalized(t("practice.practice.other", { left })),
                })
              : t("practice.practice.that-is-all-of-them")}
          </p>
          {left === 0 && (
            <button type="submit" className="button button-main mt-3">
              {t("practice.practice.once-more-with-other-values")}
            </button>
          )}
        </form>
      </div>
    </ContentLanguage>
  );
}

interface PracticeSheetProps {
  readonly view: PracticeView;
  readonly question: PracticeQuestion;
  readonly onChange: (changed: Partial<PracticeQuestion>) => void;
}

function PracticeSheet({ view, question, onChange }: PracticeSheetProps) {
  const { slot, presented, answer, told } = question;
  const [ruledOut, setRuledOut] = useState<readonly string[]>([]);
  const [marking, setMarking] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const View = answerView(presented.kind);
  const write = (next: Answer | null) => onChange({ answer: next });
  const mark = async () => {
    setMarking(true);
    setProblem(null);
    try {
      const path = `/api/practice/${view.runId}/answers`;
      onChange({ told: await ask<PracticeTold>(path, { body: { slot, answer } }) });
    } catch (error) {
      setProblem(refusalOr(error, t("practice.practice.no-connection-just-now-what-you")));
    } finally {
      setMarking(false);
    }
  };
  return (
    <section
      aria-label={t("practice.practice.question", { slot })}
      className="flex flex-col gap-x-8 gap-y-3 sm:flex-row"
    >
      <QuestionNumber slot={slot} marks={presented.marks} />
      <div className="max-w-[43.75rem] min-w-0 flex-1">
        <h2
          lang={presented.language ?? view.language}
          className={`reading text-[1.1875rem] leading-relaxed font-normal text-pretty ${showsItsText(presented) ? "sr-only" : ""}`}
          // biome-ignore lint/security/noDangerouslySetInnerHtml: sanitised when the quiz was taken in
          dangerouslySetInnerHTML={{ __html: headingOf(presented) }}
        />
        <p className="small mt-1 mb-3">{say(answering(presented.kind).instruction(presented))}</p>
        <QuestionLanguages question={presented}>
          <PicturesOf attemptId={view.attemptId} pictures={view.pictures}>
            {presented.stimulus && <Stimulus stimulus={presented.stimulus} language={view.language} />}
            <Figure id={presented.figure} />
            {presented.recording && (
              <RecordingPlayer
                attemptId={view.attemptId}
                recording={presented.recording}
                language={view.language}
              />
            )}
            <fieldset disabled={told !== null} className="min-w-0">
              <legend className="sr-only">{t("practice.practice.your-answer-to-question", { slot })}</legend>
              <View
                attemptId={view.attemptId}
                slot={slot}
                question={presented}
                answer={answer}
                ruledOut={ruledOut}
                pictures={view.pictures}
                closed={told !== null}
                closedParts={[]}
                tries={null}
                tryCost=""
                checking={false}
                files={[]}
                onFile={NOTHING}
                onFileDone={NOTHING}
                onChoose={write}
                onType={write}
                onLeave={NOTHING}
                onRuleOut={(option) =>
                  setRuledOut((all) =>
                    all.includes(option) ? all.filter((each) => each !== option) : [...all, option],
                  )
                }
              />
            </fieldset>
          </PicturesOf>
          {told ? (
            <Verdict told={told} />
          ) : (
            <button
              type="button"
              className="button mt-5"
              disabled={marking || fillOf(presented, answer).state === "empty"}
              onClick={() => void mark()}
            >
              {marking ? t("practice.practice.marking") : t("practice.practice.mark-it")}
            </button>
          )}
        </QuestionLanguages>
        {problem && (
          <p role="alert" className="mt-3 text-plum">
            {problem}
          </p>
        )}
      </div>
    </section>
  );
}

/** Whether it was right, what would have been, and how one comes to it. */
function Verdict({ told }: { readonly told: PracticeTold }) {
  const asked = useContext(ContentLanguage);
  const answered = useContext(AnswerLanguage);
  return (
    <>
      <ToldPanel told={told} />
      {told.state !== "full" && (
        <p className="mt-3">
          <span className="small">{t("practice.practice.right")} </span>
          <span lang={answered}>{told.right.join(t("joint.semicolons"))}</span>
        </p>
      )}
      {told.worked && (
        <>
          <h3 className="label mt-5">{t("practice.practice.worked-answer")}</h3>
          <div
            lang={asked}
            className="reading mt-1.5 leading-relaxed"
            // biome-ignore lint/security/noDangerouslySetInnerHtml: sanitised when the quiz was taken in
            dangerouslySetInnerHTML={{ __html: told.worked }}
          />
        </>
      )}
    </>
  );
}
