import { useContext, useEffect, useState } from "react";
import { headingOf, summaryOf } from "@/core/kinds/answering";
import { firstWords } from "@/core/text/plain-text";
import { HOUR, MINUTE } from "@/core/time/instants";
import { Confirm } from "@/ui/Confirm";
import { say, t } from "@/words/t";
import { dayAndTime, endTime, lengthInWords, spokenLength } from "@/words/times";
import { DrawnWords } from "../kinds/DrawnWords";
import { languagesOf } from "../kinds/QuestionLanguages";
import { ContentLanguage } from "../kinds/view-contexts";
import { type AnsweredCounts, answeredCounts, type DeskState, type SlotOnScreen } from "./desk-state";
import type { DeskStore } from "./desk-store";

interface FinalLookProps {
  readonly store: DeskStore;
  readonly state: DeskState;
  readonly left: number | null;
}

interface Line {
  readonly slot: number;
  readonly record: SlotOnScreen;
}

/** The page before handing in: what is empty, what has a ribbon, what is answered, and the one way to hand in. */
export function FinalLook({ store, state, left }: FinalLookProps) {
  const lines = state.slots.map((record, i) => ({ slot: i + 1, record }));
  const declared = lines.filter(({ record }) => record.isDeclaration);
  const open = lines.filter(({ record }) => record.access === "open" && !record.isDeclaration);
  const empty = open.filter(({ record }) => record.fill.state !== "full");
  const ribbon = open.filter(({ record }) => record.fill.state === "full" && record.ribbon);
  const answered = open.filter(({ record }) => record.fill.state === "full" && !record.ribbon);
  const closed = lines.filter(({ record }) => record.access === "closed" && !record.isDeclaration);
  const ahead = lines.filter(({ record }) => record.access === "ahead" && !record.isDeclaration);
  const counts = answeredCounts(state.slots);
  // What another device wrote is looked over too.
  useEffect(() => void store.handingIn.catchUp(), [store]);
  return (
    <div className="mx-auto grid max-w-[66rem] gap-x-12 gap-y-8 lg:grid-cols-[minmax(0,1fr)_18.75rem]">
      <div>
        <h2
          tabIndex={-1}
          id="final-look"
          className="font-read text-[1.75rem] leading-tight font-medium outline-none"
        >
          {t("desk.final-look.look-over-before-handing-in")}
        </h2>
        <p className="text-ink-2">
          {t("desk.final-look.nothing-is-handed-in-yet", { timeWords: timeWords(store, state, left) })}
        </p>
        {store.view.order.rule === "one-way" && (
          <p className="mt-2">
            {t("desk.final-look.this-quiz-goes-one-way-only", {
              part:
                open.length === 1
                  ? t("desk.final-look.question", { slot: open[0]?.slot ?? 0 })
                  : t("desk.final-look.what-is-open"),
            })}
          </p>
        )}
        <Group title={t("desk.final-look.still-empty-or-not-complete")} lines={empty} store={store} />
        <Group title={t("desk.final-look.with-a-ribbon")} lines={ribbon} store={store} />
        <Group title={t("desk.final-look.answered")} lines={answered} store={store} />
        <Group title={t("desk.final-look.closed")} lines={closed} store={store} />
        <Group title={t("desk.final-look.declarations-without-marks")} lines={declared} store={store} />
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
      ? t("desk.final-look.about-other", { round: Math.round(left / MINUTE) })
      : spokenLength(Math.max(0, left));

/** How much time there is: what is left of a limit, or when a quiz without one closes. */
function timeWords(store: DeskStore, state: DeskState, left: number | null): string {
  if (left === null || state.deadline === null) return t("desk.final-look.there-is-no-time-limit");
  return store.view.limitMinutes === null
    ? t("desk.final-look.there-is-no-time-limit-it", {
        deadline: dayAndTime(state.deadline, store.view.zone),
      })
    : t("desk.final-look.you-have-left", { aboutLeft: aboutLeft(left) });
}

/** The answer in a line, or how far there is one: "42 words" with what the range still asks for, as at the question. */
function LineWords({ question, fill, answer, isDeclaration }: SlotOnScreen) {
  const language = useContext(ContentLanguage);
  if (fill.state !== "full") return say(fill.words);
  if (!question) return t("desk.final-look.answered-word");
  if (question.kind === "essay" || question.kind === "upload") return say(fill.words);
  const words = (
    <span lang={languagesOf(question, language).answered}>
      {firstWords(say(summaryOf(question, answer)), 48)}
    </span>
  );
  return isDeclaration ? (
    <>
      {t("desk.final-look.declared")} {words}
    </>
  ) : (
    words
  );
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
          const { question, fill, access } = record;
          const isFull = fill.state === "full";
          const remarks = [
            record.ribbon && access === "open" ? t("desk.final-look.ribbon") : "",
            record.saved
              ? fill.state === "empty"
                ? ""
                : t("desk.final-look.saved")
              : t("desk.all-questions.not-on-the-server-yet"),
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
                <span className="text-ink-2">{t("desk.final-look.closed-2")}</span>
              )}
              <span
                className={`text-[0.8125rem] max-sm:col-start-2 max-sm:row-start-2 ${isFull ? "" : "text-ink-2"}`}
              >
                <LineWords {...record} />
                {remarks.length > 0 && (
                  <span className="text-ink-2"> · {remarks.join(t("joint.commas"))}</span>
                )}
              </span>
              {access === "open" && (
                <button
                  type="button"
                  className="button max-sm:row-span-2 max-sm:row-start-1 max-sm:col-start-3"
                  onClick={() => store.turning.go(slot)}
                >
                  {t("desk.final-look.go")}
                  <span className="sr-only"> {t("desk.final-look.to-question", { slot })}</span>
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
    <section className="mt-6" aria-label={t("desk.final-look.not-opened-yet")}>
      <h3 className="small font-bold">{t("desk.final-look.not-opened-yet")}</h3>
      <p className="mt-1.5 border-y border-line py-2 text-ink-2">
        <span className="mr-3 font-read text-xl text-indigo">
          {first === last ? first : t("desk.final-look.from-to", { first, last })}
        </span>
        {t("desk.final-look.not-opened", { count: last - first + 1, before: first - 1 })}
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
    t("desk.final-look.of-answered", { answered, of }),
    inPart > 0 ? t("desk.final-look.in-part", { count: inPart }) : "",
    empty > 0 ? t("desk.final-look.empty", { count: empty }) : "",
  ]
    .filter(Boolean)
    .join(t("joint.commas"));
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
  const partWords = inPart === 0 ? "" : t("desk.final-look.answered-in-part-only", { count: inPart });
  const emptyWords =
    empty === 0
      ? t("desk.final-look.none-is-empty")
      : t("desk.final-look.empty-and-would-get-no-marks", { count: empty });
  return (
    <div>
      <div className="sheet p-6">
        <h3 className="font-read text-xl font-medium">
          {t("desk.final-look.of-answered", { answered, of })}
        </h3>
        <p className="mt-1 text-sm text-ink-2">
          {partWords}
          {emptyWords}{" "}
          {store.view.takeBack
            ? t("desk.final-look.before-it-is-due-a-hand")
            : t("desk.final-look.after-handing-in-this-attempt-can")}
        </p>
        <button
          type="button"
          className="button button-main mt-4 min-h-12 w-full text-base"
          onClick={() => {
            setAsking(true);
            setCatching(true);
            void store.handingIn.catchUp().finally(() => setCatching(false));
          }}
        >
          {t("desk.final-look.hand-in")}
        </button>
        {firstOpen !== null && (
          <button
            type="button"
            className="button mt-2.5 min-h-10 w-full"
            onClick={() => store.turning.go(firstOpen)}
          >
            {t("desk.final-look.back-to-question", { firstOpen })}
          </button>
        )}
      </div>
      {state.deadline !== null && (
        <p className="small mt-3.5">
          {t("desk.final-look.if-you-do-nothing-everything-saved", {
            endTime: endTime(state.deadline, state.deadline - (left ?? 0), store.view.zone),
          })}
        </p>
      )}
      <Confirm
        open={asking}
        onOpenChange={setAsking}
        title={t("desk.final-look.hand-in-now")}
        yes={t("desk.final-look.hand-in")}
        no={t("desk.final-look.not-yet")}
        busy={busy || catching}
        problem={state.problem}
        onYes={() => void store.handingIn.press()}
      >
        <p>
          {countWords(counts)}. {timeWords(store, state, left)}
        </p>
        <p>
          {store.view.takeBack
            ? t("desk.final-look.before-it-is-due-and-while")
            : t("desk.final-look.it-is-final-answers-can-no")}
        </p>
      </Confirm>
    </div>
  );
}
