import { File } from "lucide-react";
import { answering, headingOf, showsItsText } from "@/core/kinds/answering";
import { answerView } from "../kinds/registry";
import type { DeskState, DeskStore } from "./desk-store";

interface QuestionSheetProps {
  readonly store: DeskStore;
  readonly state: DeskState;
  readonly slot: number;
}

/** One question with its number in the margin, its answer, and the corner to fold. */
export function QuestionSheet({ store, state, slot }: QuestionSheetProps) {
  const question = store.view.questions[slot - 1];
  const record = state.slots[slot - 1];
  if (!question || !record) return null;
  const View = answerView(question.kind);
  const of = `of ${store.view.questions.length}`;
  return (
    <section aria-label={`Question ${slot} ${of}`} className="flex flex-col gap-x-8 gap-y-3 sm:flex-row">
      <div className="flex shrink-0 items-baseline gap-3 sm:block sm:w-[3.25rem]">
        <p className="font-read text-5xl leading-none text-indigo" aria-hidden="true">
          {slot}
        </p>
        <p className="small sm:mt-2">
          {question.marks} {question.marks === "1" ? "mark" : "marks"}
        </p>
      </div>
      <div className="max-w-[43.75rem] min-w-0 flex-1">
        <h2
          id={`question-${slot}`}
          tabIndex={-1}
          className={`reading text-[1.1875rem] leading-relaxed font-normal text-pretty outline-none ${showsItsText(question) ? "sr-only" : ""}`}
          // biome-ignore lint/security/noDangerouslySetInnerHtml: sanitised when the quiz was taken in
          dangerouslySetInnerHTML={{ __html: headingOf(question) }}
        />
        <p className="small mt-1 mb-3">{answering(question.kind).instruction(question)}</p>
        {state.replaced?.slot === slot && (
          <p role="status" className="mb-3 border-l-[3px] border-ochre bg-ochre-2 px-3 py-2">
            Another device wrote here later, and that stands now. Before it stood here:{" "}
            <b>{state.replaced.before}</b>. Both are kept.
          </p>
        )}
        <View
          key={slot}
          slot={slot}
          question={question}
          answer={record.answer}
          ruledOut={record.ruledOut}
          onChoose={(answer) => store.choose(slot, answer)}
          onType={(answer) => store.type(slot, answer)}
          onLeave={() => store.commitTyping()}
          onRuleOut={(option) => store.ruleOut(slot, option)}
        />
        {store.view.fold && (
          <button
            type="button"
            className="button mt-6"
            aria-pressed={record.folded}
            onClick={() => store.fold(slot)}
          >
            <File aria-hidden="true" className={`size-4 ${record.folded ? "fill-ochre text-ochre" : ""}`} />
            {record.folded ? "Corner folded; unfold it" : "Fold corner to come back"}
          </button>
        )}
      </div>
    </section>
  );
}
