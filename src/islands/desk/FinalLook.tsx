import { useEffect, useState } from "react";
import { headingOf, summaryOf } from "@/core/kinds/answering";
import { firstWords } from "@/core/kinds/text";
import { HOUR, MINUTE } from "@/core/time/instants";
import { counted, dayAndTime, endTime, lengthInWords, spokenLength } from "@/core/time/words";
import { Confirm } from "@/ui/Confirm";
import { DrawnWords } from "../kinds/DrawnWords";
import { type AnsweredCounts, answeredCounts, type DeskState, type SlotState } from "./desk-state";
import type { DeskStore } from "./desk-store";

interface FinalLookProps {
  readonly store: DeskStore;
  readonly state: DeskState;
  readonly left: number | null;
}

interface Line {
  readonly slot: number;
  readonly record: SlotState;
}

/** The page before handing in: what is empty, what has a ribbon, what is answered, and the one way to hand in. */
export function FinalLook({ store, state, left }: FinalLookProps) {
  const lines = state.slots.map((record, i) => ({ slot: i + 1, record }));
  const declared = lines.filter(({ record }) => record.isDeclaration);
  const open = lines.filter(({ record }) => record.standing === "open" && !record.isDeclaration);
  const empty = open.filter(({ record }) => record.fill.state !== "full");
  const ribbon = open.filter(({ record }) => record.fill.state === "full" && record.ribbon);
  const answered = open.filter(({ record }) => record.fill.state === "full" && !record.ribbon);
  const closed = lines.filter(({ record }) => record.standing === "closed" && !record.isDeclaration);
  const ahead = lines.filter(({ record }) => record.standing === "ahead" && !record.isDeclaration);
  const counts = answeredCounts(state.slots);
  // What another device wrote is looked over too.
  useEffect(() => void store.catchUp(), [store]);
  return (
    <div className="mx-auto grid max-w-[66rem] gap-x-12 gap-y-8 lg:grid-cols-[minmax(0,1fr)_18.75rem]">
      <div>
        <h2
          tabIndex={-1}
          id="final-look"
          className="font-read text-[1.75rem] leading-tight font-medium outline-none"
        >
          Look over before handing in
        </h2>
        <p className="text-ink-2">Nothing is handed in yet. {timeWords(store, state, left)}</p>
        {store.view.order.rule === "one-way" && (
          <p className="mt-2">
            This quiz goes one way: only {open.length === 1 ? `question ${open[0]?.slot}` : "what is open"}{" "}
            can be gone back to.
          </p>
        )}
        <Group title="Still empty or not complete" lines={empty} store={store} />
        <Group title="With a ribbon" lines={ribbon} store={store} />
        <Group title="Answered" lines={answered} store={store} />
        <Group title="Closed" lines={closed} store={store} />
        <Group title="Declarations, without marks" lines={declared} store={store} />
        {ahead.length > 0 && <NotOpened first={ahead[0]?.slot ?? 1} last={ahead.at(-1)?.slot ?? 1} />}
      </div>
      <HandIn
        store={store}
        state={state}
        left={left}
        counts={counts}
        firstOpen={(empty[0] ?? ribbon[0] ?? open[0])?.slot ?? null}
      />
    </div>
  );
}

/** "about 4 minutes", and to the second in the last two. */
const aboutLeft = (left: number): string =>
  left > 2 * HOUR
    ? lengthInWords(left)
    : left > 2 * MINUTE
      ? `about ${counted(Math.round(left / MINUTE), "minute")}`
      : spokenLength(Math.max(0, left));

/** How much time there is: what is left of a limit, or when a quiz without one closes. */
function timeWords(store: DeskStore, state: DeskState, left: number | null): string {
  if (left === null || state.deadline === null) return "There is no time limit.";
  return store.view.limitMinutes === null
    ? `There is no time limit; it closes ${dayAndTime(state.deadline, store.view.zone)}.`
    : `You have ${aboutLeft(left)} left.`;
}

/** "42 words" with what the range still asks for, or is over by: as at the question. */
function lineWords({ question, fill, answer, isDeclaration }: SlotState): string {
  if (fill.state !== "full") return fill.words;
  if (!question) return "answered";
  if (question.kind === "essay" || question.kind === "upload") return fill.words;
  const words = firstWords(summaryOf(question, answer), 48);
  return isDeclaration ? `declared: ${words}` : words;
}

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
          const { question, fill, standing } = record;
          const isFull = fill.state === "full";
          const remarks = [
            record.ribbon && standing === "open" ? "ribbon" : "",
            record.saved ? (fill.state === "empty" ? "" : "saved") : "not on the server yet",
          ].filter(Boolean);
          return (
            <li
              key={slot}
              className="grid grid-cols-[2.25rem_minmax(0,1fr)_auto] items-center gap-x-3 border-b border-line py-2 sm:grid-cols-[2.25rem_minmax(0,1fr)_12rem_auto]"
            >
              <span className="font-read text-xl text-indigo">{slot}</span>
              {question ? (
                <DrawnWords html={headingOf(question)} className="reading truncate text-base" />
              ) : (
                <span className="text-ink-2">closed</span>
              )}
              <span
                className={`text-[0.8125rem] max-sm:col-start-2 max-sm:row-start-2 ${isFull ? "" : "text-ink-2"}`}
              >
                {lineWords(record)}
                {remarks.length > 0 && <span className="text-ink-2"> · {remarks.join(", ")}</span>}
              </span>
              {standing === "open" && (
                <button
                  type="button"
                  className="button max-sm:row-span-2 max-sm:row-start-1 max-sm:col-start-3"
                  onClick={() => store.go(slot)}
                >
                  Go<span className="sr-only"> to question {slot}</span>
                </button>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** Questions that were not reached stand together: there is nothing to say of each. */
function NotOpened({ first, last }: { readonly first: number; readonly last: number }) {
  return (
    <section className="mt-6" aria-label="Not opened yet">
      <h3 className="small font-bold">Not opened yet</h3>
      <p className="mt-1.5 border-y border-line py-2 text-ink-2">
        <span className="mr-3 font-read text-xl text-indigo">
          {first === last ? first : `${first} to ${last}`}
        </span>
        {first === last ? "It comes" : "They come"} after question {first - 1}, and{" "}
        {first === last ? "is" : "are"} empty.
      </p>
    </section>
  );
}

interface HandInProps extends FinalLookProps {
  readonly counts: AnsweredCounts;
  /** Null when every question is closed. */
  readonly firstOpen: number | null;
}

/** "8 of 10 answered, one in part, one empty". */
function countWords({ answered, inPart, empty, of }: AnsweredCounts): string {
  return [
    `${answered} of ${of} answered`,
    inPart > 0 ? `${inPart === 1 ? "one" : inPart} in part` : "",
    empty > 0 ? `${empty === 1 ? "one" : empty} empty` : "",
  ]
    .filter(Boolean)
    .join(", ");
}

function HandIn({ store, state, left, counts, firstOpen }: HandInProps) {
  const [asking, setAsking] = useState(false);
  const [catching, setCatching] = useState(false);
  const { answered, inPart, empty, of } = counts;
  const waits = state.phase.kind === "hand-in-waits";
  const busy = state.phase.kind !== "running";
  // The dialog that says that it waits takes this one's place.
  useEffect(() => {
    if (waits) setAsking(false);
  }, [waits]);
  const partWords =
    inPart === 0 ? "" : `${inPart === 1 ? "One is" : `${inPart} are`} answered in part only. `;
  const emptyWords =
    empty === 0
      ? "None is empty."
      : `${empty === 1 ? "One is" : `${empty} are`} empty and would get no marks.`;
  return (
    <div>
      <div className="sheet p-6">
        <h3 className="font-read text-xl font-medium">
          {answered} of {of} answered
        </h3>
        <p className="mt-1 text-sm text-ink-2">
          {partWords}
          {emptyWords}{" "}
          {store.view.takeBack
            ? "Before it is due, a hand-in can be taken back on its slip."
            : "After handing in, this attempt can no longer be changed."}
        </p>
        <button
          type="button"
          className="button button-main mt-4 min-h-12 w-full text-base"
          onClick={() => {
            setAsking(true);
            setCatching(true);
            void store.catchUp().finally(() => setCatching(false));
          }}
        >
          Hand in
        </button>
        {firstOpen !== null && (
          <button type="button" className="button mt-2.5 min-h-10 w-full" onClick={() => store.go(firstOpen)}>
            Back to question {firstOpen}
          </button>
        )}
      </div>
      {state.deadline !== null && (
        <p className="small mt-3.5">
          If you do nothing, everything saved is handed in at{" "}
          {endTime(state.deadline, state.deadline - (left ?? 0), store.view.zone)}.
        </p>
      )}
      <Confirm
        open={asking}
        onOpenChange={setAsking}
        title="Hand in now?"
        yes="Hand in"
        no="Not yet"
        busy={busy || catching}
        problem={state.problem}
        onYes={() => void store.handIn()}
      >
        <p>
          {countWords(counts)}. {timeWords(store, state, left)}
        </p>
        <p>
          {store.view.takeBack
            ? "Before it is due, and while your time runs, you can take it back on the slip."
            : "It is final: answers can no longer be changed afterwards."}
        </p>
      </Confirm>
    </div>
  );
}
