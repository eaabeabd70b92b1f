import { useState } from "react";
import { headingOf, summaryOf } from "@/core/kinds/answering";
import { firstWords, plainText } from "@/core/kinds/text";
import { MINUTE } from "@/core/time/instants";
import { counted, spokenLength, timeWithSeconds } from "@/core/time/words";
import { Confirm } from "@/ui/Confirm";
import type { DeskState, DeskStore, SlotState } from "./desk-store";

interface FinalLookProps {
  readonly store: DeskStore;
  readonly state: DeskState;
  readonly left: number | null;
}

interface Line {
  readonly slot: number;
  readonly record: SlotState;
}

/** The page before handing in: what is empty, what is folded, what is answered, and the one way to hand in. */
export function FinalLook({ store, state, left }: FinalLookProps) {
  const lines = state.slots.map((record, i) => ({ slot: i + 1, record }));
  const empty = lines.filter(({ record }) => record.fill.state !== "full");
  const folded = lines.filter(({ record }) => record.fill.state === "full" && record.folded);
  const answered = lines.filter(({ record }) => record.fill.state === "full" && !record.folded);
  const begun = lines.filter(({ record }) => record.fill.state !== "empty").length;
  const nothing = lines.length - begun;
  const incomplete = lines.filter(({ record }) => record.fill.state === "part").length;
  return (
    <div className="mx-auto grid max-w-[66rem] gap-x-12 gap-y-8 lg:grid-cols-[minmax(0,1fr)_18.75rem]">
      <div>
        <h2
          tabIndex={-1}
          id="final-look"
          className="font-read text-[1.75rem] leading-tight font-medium outline-none"
        >
          Final look
        </h2>
        <p className="text-ink-2">
          Nothing is handed in yet.{" "}
          {left === null ? "There is no time limit." : `You have ${aboutLeft(left)} left.`}
        </p>
        <Group title="Still empty or not complete" lines={empty} store={store} />
        <Group title="Corner folded" lines={folded} store={store} />
        <Group title="Answered" lines={answered} store={store} />
      </div>
      <HandIn
        store={store}
        state={state}
        left={left}
        begun={begun}
        nothing={nothing}
        incomplete={incomplete}
        firstOpen={(empty[0] ?? folded[0])?.slot ?? state.here}
      />
    </div>
  );
}

/** "about 4 minutes", and to the second in the last two. */
const aboutLeft = (left: number) =>
  left > 2 * MINUTE
    ? `about ${counted(Math.round(left / MINUTE), "minute")}`
    : spokenLength(Math.max(0, left));

function Group({
  title,
  lines,
  store,
}: {
  readonly title: string;
  readonly lines: readonly Line[];
  readonly store: DeskStore;
}) {
  if (lines.length === 0) return null;
  return (
    <section className="mt-6" aria-label={title}>
      <h3 className="small font-bold">{title}</h3>
      <ul className="mt-1.5 border-t border-line">
        {lines.map(({ slot, record }) => {
          const question = store.view.questions[slot - 1];
          if (!question) return null;
          const summary = summaryOf(question, record.answer);
          const words = record.fill.state === "full" ? firstWords(summary, 48) : record.fill.words;
          return (
            <li
              key={slot}
              className="grid grid-cols-[2.25rem_minmax(0,1fr)_auto] items-center gap-x-3 border-b border-line py-2 sm:grid-cols-[2.25rem_minmax(0,1fr)_12rem_auto]"
            >
              <span className="font-read text-xl text-indigo">{slot}</span>
              <span className="reading truncate text-base">{plainText(headingOf(question))}</span>
              <span
                className={`text-[0.8125rem] max-sm:col-start-2 max-sm:row-start-2 ${record.fill.state === "full" ? "" : "text-ink-2"}`}
              >
                {words}
              </span>
              <button
                type="button"
                className="button max-sm:row-span-2 max-sm:row-start-1 max-sm:col-start-3"
                onClick={() => store.go(slot)}
              >
                Go<span className="sr-only"> to question {slot}</span>
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

interface HandInProps extends FinalLookProps {
  readonly begun: number;
  readonly nothing: number;
  readonly incomplete: number;
  readonly firstOpen: number;
}

function HandIn({ store, state, left, begun, nothing, incomplete, firstOpen }: HandInProps) {
  const [asking, setAsking] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const total = state.slots.length;
  const busy = state.phase !== "running";
  const handIn = async () => {
    setProblem(null);
    try {
      await store.handIn();
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const incompleteWords =
    incomplete === 0
      ? ""
      : `${incomplete === 1 ? "One of them is" : `${incomplete} of them are`} not complete. `;
  const emptyWords =
    nothing === 0
      ? "None is empty."
      : `${nothing === 1 ? "One is" : `${nothing} are`} empty and would get no marks.`;
  return (
    <div>
      <div className="sheet p-6">
        <h3 className="font-read text-xl font-medium">
          {begun} of {total} answered
        </h3>
        <p className="mt-1 text-sm text-ink-2">
          {incompleteWords}
          {emptyWords} After handing in, this attempt can no longer be changed.
        </p>
        <button
          type="button"
          className="button button-main mt-4 min-h-12 w-full text-base"
          onClick={() => {
            setProblem(null);
            setAsking(true);
          }}
        >
          Hand in
        </button>
        <button type="button" className="button mt-2.5 min-h-10 w-full" onClick={() => store.go(firstOpen)}>
          Back to question {firstOpen}
        </button>
      </div>
      {state.deadline !== null && (
        <p className="small mt-3.5">
          If you do nothing, everything saved is handed in at{" "}
          {timeWithSeconds(state.deadline, store.view.zone)}.
        </p>
      )}
      <Confirm
        open={asking}
        onOpenChange={setAsking}
        title="Hand in now?"
        yes="Hand in"
        no="Not yet"
        busy={busy}
        problem={problem}
        onYes={handIn}
      >
        <p>
          {begun} of {total} answered{nothing > 0 ? `, ${nothing} empty` : ""}.{" "}
          {left === null ? "" : `You have ${aboutLeft(left)} left.`}
        </p>
        <p>It is final: answers can no longer be changed afterwards.</p>
      </Confirm>
    </div>
  );
}
