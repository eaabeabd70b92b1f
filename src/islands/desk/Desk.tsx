import { Dialog } from "radix-ui";
import { useCallback, useEffect, useRef, useState, useSyncExternalStore } from "react";
import type { DeskView } from "@/core/attempt/desk-view";
import { spokenLength, timeOfDay } from "@/core/time/words";
import { Confirm } from "@/ui/Confirm";
import { DeskStore } from "./desk-store";
import { EmberLine } from "./EmberLine";
import { FinalLook } from "./FinalLook";
import { Head } from "./Head";
import { QuestionSheet } from "./QuestionSheet";
import { Spines } from "./Spines";
import { Tools } from "./Tools";
import { useCountdown } from "./use-countdown";
import { KEYS, useKeys } from "./use-keys";

/** The page on which an attempt is taken. */
export function Desk({ view }: { readonly view: DeskView }) {
  const [store] = useState(() => new DeskStore(view));
  const state = useSyncExternalStore(store.subscribe, store.state, store.state);
  const countdown = useCountdown(store, state.deadline, state.startedAt);
  const [ready, setReady] = useState(false);
  const [digitsHidden, setDigitsHidden] = useState(false);
  const [tools, setTools] = useState(view.reference !== null);
  const [leaving, setLeaving] = useState(false);
  const [keysShown, setKeysShown] = useState(false);
  const showKeys = useCallback(() => setKeysShown(true), []);

  useEffect(() => {
    setReady(true);
    return store.open();
  }, [store]);
  useKeys(store, showKeys);
  useFocusOnTurn(state.here, state.look);
  useFinalLookInHistory(store, state.look);

  const count = view.questions.length;
  const { here, look, phase } = state;
  const limit = state.deadline === null ? null : state.deadline - state.startedAt;
  const left = countdown.left;

  return (
    <div
      className="flex h-dvh flex-col overflow-hidden max-lg:h-auto max-lg:min-h-dvh max-lg:overflow-visible"
      data-ready={ready}
    >
      {limit !== null && left !== null && (
        <EmberLine burned={1 - left / limit} notches={view.notices.map((notice) => notice / limit)} />
      )}
      <Head
        store={store}
        state={state}
        countdown={countdown}
        digitsHidden={digitsHidden}
        onHideDigits={() => setDigitsHidden(!digitsHidden)}
        onLeave={() => setLeaving(true)}
      />
      <NoticeBar notice={countdown.notice} left={left} />
      <div className="flex min-h-0 flex-1 max-lg:flex-col">
        <main id="content" className="min-w-0 flex-1 px-4 pt-8 pb-10 sm:px-10 lg:overflow-y-auto">
          {phase === "time-up" || phase === "over" ? (
            <Closing phase={phase} />
          ) : look === "final" ? (
            <FinalLook store={store} state={state} left={left} />
          ) : (
            <QuestionSheet store={store} state={state} slot={here} />
          )}
        </main>
        {tools && look === "question" && <Tools view={view} onClose={() => setTools(false)} />}
      </div>
      <footer className="grid grid-cols-[auto_1fr_auto] items-end gap-x-3 border-t border-line bg-sheet px-4 max-lg:sticky max-lg:bottom-0 sm:gap-x-6 sm:px-8">
        <div className="flex gap-2 pb-4">
          <button
            type="button"
            className="button"
            disabled={look === "final" ? false : here <= 1}
            onClick={() => (look === "final" ? store.go(here) : store.go(here - 1))}
          >
            <span aria-hidden="true">←</span>
            <span className="sr-only">{look === "final" ? "Back to question" : "Previous question,"}</span>
            {look === "final" ? here : here > 1 ? here - 1 : ""}
          </button>
        </div>
        <div className="min-w-0 max-sm:col-span-3 max-sm:row-start-1">
          <Spines state={state} onGo={(slot) => store.go(slot)} />
        </div>
        <div className="flex items-center justify-end gap-3 pb-4 max-sm:col-start-3">
          {!tools && look === "question" && (
            <button type="button" className="button button-quiet" onClick={() => setTools(true)}>
              {view.reference ? "Reference" : "Brief"}
            </button>
          )}
          {look === "question" && here < count && (
            <button type="button" className="button" onClick={() => store.go(here + 1)}>
              <span className="sr-only">Next question,</span>
              {here + 1}
              <span aria-hidden="true">→</span>
            </button>
          )}
          {look === "question" && (
            <button
              type="button"
              className="button border-indigo text-indigo"
              onClick={() => store.look("final")}
            >
              Final look
            </button>
          )}
        </div>
      </footer>
      <Confirm
        open={leaving}
        onOpenChange={setLeaving}
        title="Leave for now?"
        yes="Leave for now"
        no="Stay"
        onYes={() => {
          store.leave();
          location.assign("/today");
        }}
      >
        <p>This hands nothing in. Everything is kept, and the way back stands on top of Today.</p>
        {state.deadline !== null && (
          <p>
            The clock runs on: your time ends at {timeOfDay(state.deadline, view.zone)}, whether you are here
            or not.
          </p>
        )}
      </Confirm>
      <Dialog.Root open={keysShown} onOpenChange={setKeysShown}>
        <Dialog.Portal>
          <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/35 night:bg-paper/70" />
          <Dialog.Content
            aria-describedby={undefined}
            className="sheet fixed top-1/2 left-1/2 z-50 w-[min(28rem,calc(100vw-2rem))] -translate-x-1/2 -translate-y-1/2 p-6 shadow-lg"
          >
            <Dialog.Title className="font-read text-xl font-medium">Keys at the desk</Dialog.Title>
            <dl className="mt-4 border-t border-line">
              {KEYS.map(([keys, what]) => (
                <div key={keys} className="flex justify-between gap-6 border-b border-line py-2">
                  <dt className="font-bold">{keys}</dt>
                  <dd className="text-right text-ink-2">{what}</dd>
                </div>
              ))}
            </dl>
            <p className="small mt-3">Inside a text field every key writes.</p>
            <Dialog.Close className="button mt-5">Back to the question</Dialog.Close>
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
    </div>
  );
}

/** A notice when time runs low: shown for a while, never in the way. */
function NoticeBar({ notice, left }: { readonly notice: number | null; readonly left: number | null }) {
  const SHOWN_FOR = 12_000;
  if (notice === null || left === null || left <= 0 || left < notice - SHOWN_FOR) return null;
  return (
    <p className="border-b border-line bg-ochre-2 px-4 py-1.5 text-center text-ochre sm:px-8">
      {spokenLength(notice)} left.
    </p>
  );
}

function Closing({ phase }: { readonly phase: "time-up" | "over" }) {
  return (
    <div role="status" className="mx-auto max-w-xl pt-10">
      <h2 className="font-read text-[1.75rem] font-medium">
        {phase === "time-up" ? "Time is up" : "Handed in"}
      </h2>
      <p className="mt-2 font-read text-lg">
        {phase === "time-up"
          ? "What you have written is being handed in for you. Your slip follows in a few seconds."
          : "Your slip follows now."}
      </p>
    </div>
  );
}

/** On turning to another question the reading, and a screen reader's, starts at its top. */
function useFocusOnTurn(here: number, look: string): void {
  const turned = useRef(false);
  useEffect(() => {
    if (!turned.current) {
      turned.current = true;
      return;
    }
    document
      .getElementById(look === "final" ? "final-look" : `question-${here}`)
      ?.focus({ preventScroll: true });
    document.getElementById("content")?.scrollTo({ top: 0 });
    if (matchMedia("(max-width: 63.99rem)").matches) scrollTo({ top: 0 });
  }, [here, look]);
}

/** The browser's way back leads from the final look to the question, not out of the desk. */
function useFinalLookInHistory(store: DeskStore, look: "question" | "final"): void {
  useEffect(() => {
    const onFinal = history.state?.look === "final";
    if (look === "final" && !onFinal) history.pushState({ look: "final" }, "");
    if (look === "question" && onFinal) history.back();
  }, [look]);
  useEffect(() => {
    if (history.state?.look === "final") store.look("final");
    const popped = () => store.look(history.state?.look === "final" ? "final" : "question");
    addEventListener("popstate", popped);
    return () => removeEventListener("popstate", popped);
  }, [store]);
}
