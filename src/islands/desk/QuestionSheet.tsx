import { memo } from "react";
import type { PictureView } from "@/core/desk/desk-view";
import { answering, headingOf, showsItsText } from "@/core/kinds/answering";
import { contentInWords } from "@/core/kinds/picks/content";
import { plainText } from "@/core/text/plain-text";
import { say, t } from "@/words/t";
import type { PendingFile } from "../keeping/file-queue";
import { Figure, PicturesOf } from "../kinds/pictures";
import { QuestionLanguages } from "../kinds/QuestionLanguages";
import { RecordingPlayer, Stimulus } from "../kinds/QuestionMaterial";
import { QuestionNumber } from "../kinds/QuestionNumber";
import { answerView } from "../kinds/registry";
import type { SlotOnScreen } from "./desk-state";
import type { DeskStore } from "./desk-store";
import { QuestionStatus } from "./QuestionStatus";
import { ReadAloud } from "./ReadAloud";
import { ToldPanel } from "./ToldPanel";
import { TryBar } from "./TryBar";

interface QuestionSheetProps {
  readonly store: DeskStore;
  readonly slot: number;
  readonly record: SlotOnScreen;
  readonly count: number;
  /** Whether the page is alive: before that nothing could be kept, so nothing can be written. */
  readonly ready: boolean;
  readonly pictures: readonly PictureView[];
  readonly files: readonly PendingFile[];
  /** Why the server did not take what stands here; null where it did. */
  readonly refused: string | null;
  readonly checking: boolean;
  /** Whether what its section is about stands above an earlier question of the page. */
  readonly saidAbove: boolean;
}

/** One question with its number in the margin, its answer, and how it is saved. */
export const QuestionSheet = memo(function QuestionSheet(props: QuestionSheetProps) {
  const { store, slot, record, count, ready, pictures, files, refused, checking } = props;
  const { question } = record;
  if (!question) return <ClosedSheet slot={slot} />;
  const View = answerView(question.kind);
  const isOpen = record.access === "open";
  const { view } = store;
  // On a page of several questions it stands above the first of them.
  const stimulus = props.saidAbove ? undefined : question.stimulus;
  return (
    <section
      aria-label={t("desk.question-sheet.question-of", { slot, count })}
      data-slot={slot}
      className="flex scroll-mt-4 flex-col gap-x-8 gap-y-3 max-lg:scroll-mt-40 sm:flex-row"
      onFocus={(event) => {
        store.turning.at(slot);
        store.keeping.writesIn(isTextField(event.target) ? slot : null);
      }}
      onBlur={() => store.keeping.writesIn(null)}
    >
      <QuestionNumber slot={slot} marks={question.marks} />
      <div className="max-w-[43.75rem] min-w-0 flex-1">
        {stimulus && (
          <PicturesOf attemptId={view.attemptId} pictures={pictures}>
            <Stimulus stimulus={stimulus} language={view.language} />
          </PicturesOf>
        )}
        <h2
          id={`question-${slot}`}
          tabIndex={-1}
          lang={question.language ?? view.language}
          className={`reading text-[1.1875rem] leading-relaxed font-normal text-pretty outline-none ${showsItsText(question) ? "sr-only" : ""}`}
          // biome-ignore lint/security/noDangerouslySetInnerHtml: sanitised when the quiz was taken in
          dangerouslySetInnerHTML={{ __html: headingOf(question) }}
        />
        <p className="small mt-1 mb-3">
          {say(answering(question.kind).instruction(question))} {say(question.scoring)}
        </p>
        <QuestionLanguages question={question}>
          <PicturesOf attemptId={view.attemptId} pictures={pictures}>
            <Figure id={question.figure} />
            {question.recording && (
              <RecordingPlayer
                attemptId={view.attemptId}
                recording={question.recording}
                language={view.language}
              />
            )}
            <fieldset disabled={!isOpen || !ready} className="min-w-0">
              <legend className="sr-only">
                {t("desk.question-sheet.your-answer-to-question", { slot })}
              </legend>
              <View
                key={slot}
                attemptId={view.attemptId}
                slot={slot}
                question={question}
                answer={record.answer}
                ruledOut={record.ruledOut}
                pictures={pictures}
                closed={!isOpen}
                closedParts={record.tries?.map((part) => part.closed) ?? []}
                tries={record.tries}
                tryCost={view.tries ? String(view.tries.cost) : ""}
                checking={checking}
                {...(record.tries && isOpen
                  ? { onCheckPart: (part: number) => void store.turning.check(slot, part) }
                  : {})}
                files={files}
                onFile={(file) => void store.files.add(slot, file)}
                onFileDone={(id) => store.files.forget(id)}
                onChoose={(answer) => store.answers.choose(slot, answer)}
                onType={(answer) => store.answers.type(slot, answer)}
                onLeave={() => store.keeping.writeTyped()}
                onRuleOut={(option) => store.answers.ruleOut(slot, option)}
              />
            </fieldset>
          </PicturesOf>
          <QuestionStatus store={store} slot={slot} record={record} refused={refused} />
          {record.told && <ToldPanel told={record.told} />}
        </QuestionLanguages>
        {record.tries && view.tries && (
          <TryBar
            slot={slot}
            rules={view.tries}
            tries={record.tries}
            empty={record.fill.state === "empty"}
            busy={checking}
            verdicts={question.kind !== "numeric" || record.tries.length === 1}
            onCheck={() => void store.turning.check(slot)}
          />
        )}
        <div className="mt-3 flex flex-wrap gap-3">
          {view.ribbons && isOpen && (
            <button
              type="button"
              className="button min-w-[12rem] justify-start!"
              aria-pressed={record.ribbon}
              onClick={() => store.answers.layRibbon(slot)}
            >
              <Ribbon laid={record.ribbon} />
              {record.ribbon
                ? t("desk.question-sheet.will-come-back")
                : t("desk.question-sheet.come-back-to-this-one")}
            </button>
          )}
          {view.readAloud && (
            <ReadAloud
              slot={slot}
              language={question.language ?? view.language}
              words={() =>
                [
                  t("desk.question-sheet.question", { slot }),
                  withStop(plainText(headingOf(question))),
                  say(answering(question.kind).instruction(question)),
                  ...("options" in question
                    ? question.options.map(
                        (option, i) =>
                          `${String.fromCharCode(65 + i)}. ${withStop(say(contentInWords(option)))}`,
                      )
                    : []),
                ].join(" ")
              }
            />
          )}
        </div>
      </div>
    </section>
  );
});

/** Whether something is typed into it: what is typed is never changed under one's hands. */
const isTextField = (target: EventTarget): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || target.matches("input:not([type]), input[type=text], textarea"));

/** A ribbon as it hangs from the row: an outline until it is laid. */
const Ribbon = ({ laid }: { readonly laid: boolean }) => (
  <svg className="h-4 w-3" viewBox="0 0 12 16" aria-hidden="true">
    <path
      d="M1 1h10v13.5l-5 -4l-5 4z"
      className={laid ? "fill-ochre stroke-ochre" : "fill-none stroke-ink-2"}
      strokeWidth="1.5"
    />
  </svg>
);

/** In the place of a question that is not on this device. */
function ClosedSheet({ slot }: { readonly slot: number }) {
  return (
    <section aria-label={t("desk.question-sheet.question-2", { slot })} className="flex gap-8">
      <p className="w-[3.25rem] font-read text-5xl leading-none text-ink-3" aria-hidden="true">
        {slot}
      </p>
      <p id={`question-${slot}`} tabIndex={-1} className="pt-2 text-ink-2 outline-none">
        {t("desk.question-sheet.question-is-closed-what-you-wrote", { slot })}
      </p>
    </section>
  );
}

/** A text that is spoken with something after it ends where it ends. */
const withStop = (text: string) => (/[.?!:…]$/.test(text) ? text : `${text}.`);
