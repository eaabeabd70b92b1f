import { File } from "lucide-react";
import { memo } from "react";
import type { PictureView } from "@/core/attempt/desk-view";
import { answering, headingOf, showsItsText } from "@/core/kinds/answering";
import { contentInWords } from "@/core/kinds/picks/options";
import { plainText } from "@/core/kinds/text";
import { PicturesOf } from "../kinds/pictures";
import { QuestionNumber } from "../kinds/QuestionNumber";
import { answerView } from "../kinds/registry";
import type { Replaced, SlotState } from "./desk-state";
import type { DeskStore } from "./desk-store";
import type { PendingFile } from "./file-queue";
import { ReadAloud } from "./ReadAloud";
import { ToldPanel } from "./ToldPanel";
import { TryBar } from "./TryBar";

interface QuestionSheetProps {
  readonly store: DeskStore;
  readonly slot: number;
  readonly record: SlotState;
  readonly count: number;
  readonly pictures: readonly PictureView[];
  readonly files: readonly PendingFile[];
  readonly replaced: Replaced | null;
  readonly checking: boolean;
}

/** One question with its number in the margin, its answer, and the corner to fold. */
export const QuestionSheet = memo(function QuestionSheet(props: QuestionSheetProps) {
  const { store, slot, record, count, pictures, files, replaced, checking } = props;
  const { question } = record;
  if (!question) return <ClosedSheet slot={slot} />;
  const View = answerView(question.kind);
  const isOpen = record.standing === "open";
  const { view } = store;
  return (
    <section
      aria-label={`Question ${slot} of ${count}`}
      className="flex flex-col gap-x-8 gap-y-3 sm:flex-row"
      onFocus={() => store.at(slot)}
    >
      <QuestionNumber slot={slot} marks={question.marks} />
      <div className="max-w-[43.75rem] min-w-0 flex-1">
        <h2
          id={`question-${slot}`}
          tabIndex={-1}
          className={`reading text-[1.1875rem] leading-relaxed font-normal text-pretty outline-none ${showsItsText(question) ? "sr-only" : ""}`}
          // biome-ignore lint/security/noDangerouslySetInnerHtml: sanitised when the quiz was taken in
          dangerouslySetInnerHTML={{ __html: headingOf(question) }}
        />
        <p className="small mt-1 mb-3">{answering(question.kind).instruction(question)}</p>
        {replaced && (
          <p role="status" className="mb-3 border-l-[3px] border-ochre bg-ochre-2 px-3 py-2">
            Another device wrote here later, and that stands now. Before it stood here:{" "}
            <b>{replaced.before}</b>. Both are kept.
          </p>
        )}
        <PicturesOf attemptId={view.attemptId} pictures={pictures}>
          <fieldset disabled={!isOpen} className="min-w-0">
            <legend className="sr-only">Your answer to question {slot}</legend>
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
              files={files}
              onFile={(file) => void store.files.add(slot, file)}
              onFileDone={(id) => store.files.forget(id)}
              onChoose={(answer) => store.choose(slot, answer)}
              onType={(answer) => store.type(slot, answer)}
              onLeave={() => store.commitTyping()}
              onRuleOut={(option) => store.ruleOut(slot, option)}
            />
          </fieldset>
        </PicturesOf>
        {record.told && <ToldPanel told={record.told} />}
        {record.tries && view.tries && (
          <TryBar
            slot={slot}
            rules={view.tries}
            tries={record.tries}
            empty={record.fill.state === "empty"}
            busy={checking}
            onCheck={() => void store.check(slot)}
          />
        )}
        <div className="mt-6 flex flex-wrap gap-3">
          {view.fold && isOpen && (
            <button
              type="button"
              className="button"
              aria-pressed={record.folded}
              onClick={() => store.fold(slot)}
            >
              <File aria-hidden="true" className={`size-4 ${record.folded ? "fill-ochre text-ochre" : ""}`} />
              {record.folded ? "Corner folded; unfold it" : "Fold corner to come back"}
            </button>
          )}
          {view.readAloud && (
            <ReadAloud
              slot={slot}
              words={() =>
                [
                  `Question ${slot}.`,
                  withStop(plainText(headingOf(question))),
                  answering(question.kind).instruction(question),
                  ...("options" in question
                    ? question.options.map(
                        (option, i) => `${String.fromCharCode(65 + i)}. ${withStop(contentInWords(option))}`,
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

/** In the place of a question that is not on this device. */
function ClosedSheet({ slot }: { readonly slot: number }) {
  return (
    <section aria-label={`Question ${slot}`} className="flex gap-8">
      <p className="w-[3.25rem] font-read text-5xl leading-none text-ink-3" aria-hidden="true">
        {slot}
      </p>
      <p id={`question-${slot}`} tabIndex={-1} className="pt-2 text-ink-2 outline-none">
        Question {slot} is closed. What you wrote is kept and will be handed in.
      </p>
    </section>
  );
}

/** A text that is spoken with something after it ends where it ends. */
const withStop = (text: string) => (/[.?!:…]$/.test(text) ? text : `${text}.`);
