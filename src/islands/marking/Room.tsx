import { Dialog } from "radix-ui";
import { useCallback, useEffect, useRef, useState, useSyncExternalStore } from "react";
import type { RemarkLine } from "@/core/desk/room-view";
import type { RubricCriterion } from "@/core/kinds/rubric";
import type { HandWork } from "@/core/marking/hand-work";
import type { NoteAnchor } from "@/core/reveal/note-anchor";
import { RichText } from "@/ui/RichText";
import { say, t } from "@/words/t";
import { SignInAgain } from "../keeping/SignInAgain";
import { saveWords } from "../keeping/save-words";
import { AnswerSheet } from "./AnswerSheet";
import { Elsewhere } from "./Elsewhere";
import { KeepRemark } from "./KeepRemark";
import { Ladder } from "./Ladder";
import { Margin } from "./Margin";
import { MarksLine } from "./MarksLine";
import { markingOf } from "./marking-of";
import { Pile } from "./Pile";
import { paperName } from "./PileList";
import { beside, isWaiting, keyOf, nextWaiting, type Place, shownLines } from "./pile-order";
import { QuestionAside } from "./QuestionAside";
import { RoomKeys } from "./RoomKeys";
import { RoomStore, type RoomTerms } from "./room-store";
import { selectedWords } from "./selected-words";
import { useRoomKeys } from "./use-room-keys";

/** The marking room: the pile, the answer, the rubric, and what is written beside it. */
export function Room(terms: RoomTerms) {
  const [store] = useState(() => new RoomStore(terms));
  const state = useSyncExternalStore(store.subscribe, store.state, store.state);
  useEffect(() => store.open(), [store]);
  const { pile, filter, here, answer, work } = state;
  const [asks, setAsks] = useState(false);
  const [keys, setKeys] = useState(false);
  const [signingIn, setSigningIn] = useState(false);
  const [keeping, setKeeping] = useState<string | null>(null);
  const [more, setMore] = useState<string | null>(null);
  const [fresh, setFresh] = useState<string | null>(null);
  const [ready, setReady] = useState(false);
  useEffect(() => setReady(true), []);
  const feedbackField = useRef<HTMLTextAreaElement>(null);
  const mayWrite = state.holder === null && answer !== null;
  const marking = answer ? markingOf(answer, work) : null;
  const criteria = answer?.rubric?.criteria ?? [];
  const firstLeft = criteria.findIndex(({ id }) => !work.criteria[id]?.level && !work.criteria[id]?.points);
  const [chosenRow, setChosenRow] = useState<number | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another answer begins at its first criterion
  useEffect(() => {
    setChosenRow(null);
    setMore(null);
    setFresh(null);
  }, [here && keyOf(here)]);
  const current = chosenRow ?? (firstLeft === -1 ? Math.max(0, criteria.length - 1) : firstLeft);

  const criterionMark = (
    criterion: RubricCriterion,
    change: Partial<HandWork["criteria"][string]>,
  ): HandWork => {
    const { level, points, remark } = { ...work.criteria[criterion.id], ...change };
    const decided = {
      ...(level === undefined ? {} : { level }),
      ...(points === undefined || points === "" ? {} : { points }),
      ...(remark === undefined || remark === "" ? {} : { remark }),
    };
    const { [criterion.id]: _, ...others } = work.criteria;
    return {
      ...work,
      marks: null,
      criteria: Object.keys(decided).length === 0 ? others : { ...others, [criterion.id]: decided },
    };
  };
  const pick = (criterion: RubricCriterion, level: string) => {
    const found = criterion.levels.find(({ id }) => id === level);
    const words = t("marking.room.picked", { criterion: criterion.title, level: found?.title ?? "" });
    store.change(criterionMark(criterion, { level, points: undefined }), words);
    setChosenRow(null);
  };
  const pin = useCallback(
    (anchor: NoteAnchor | null) => {
      if (!store.mayWrite) return;
      const note = { id: crypto.randomUUID(), anchor, text: "" };
      const now = store.state().work;
      store.change({ ...now, notes: [...now.notes, note] }, t("marking.room.a-note-pinned"));
      setFresh(note.id);
    },
    [store],
  );
  const used = (remark: RemarkLine) => void store.remarks({ used: remark.id }).catch(() => {});
  const next = here && nextWaiting(state, here);
  const goNext = () => {
    if (next) void store.show({ paper: next.paper, slot: next.slot });
  };
  const step = (by: 1 | -1) => {
    const line = here && beside(state, here, by);
    if (line) void store.show({ paper: line.paper, slot: line.slot });
  };

  useRoomKeys({
    isOn: !keys && !signingIn && keeping === null,
    level: (place) => {
      const criterion = criteria[current];
      const level = criterion?.levels[place - 1];
      if (criterion && level && mayWrite) pick(criterion, level.id);
    },
    hasRubric: criteria.length > 0 && work.marks === null,
    row: (by) => setChosenRow(Math.min(criteria.length - 1, Math.max(0, current + by))),
    next: goNext,
    step,
    undo: store.undo,
    margin: () => {
      const sheet = document.querySelector<HTMLElement>("[data-answer]");
      pin(sheet ? selectedWords(sheet) : null);
    },
    feedback: () => feedbackField.current?.focus(),
    marks: () => document.querySelector<HTMLInputElement>("[data-marks]")?.focus(),
    keys: () => setKeys(true),
    save: () => void store.saveNow(),
  });

  const words = saveWords(state, terms.zone);
  const lines = shownLines(pile, filter);
  const waiting = lines.filter(isWaiting).length;
  const done = lines.length - waiting;
  const question = pile.questions.find(({ id }) => id === (answer?.question ?? filter.question));
  return (
    <div className="flex min-h-[calc(100dvh-3.8rem)] flex-col" data-ready={ready}>
      <section
        aria-label={t("marking.room.marking")}
        className="flex flex-wrap items-center gap-x-8 gap-y-3 border-b border-line px-8 py-2.5 max-sm:px-4"
      >
        <div className="min-w-0 flex-1 basis-80">
          <p className="small">
            <a
              className="inline-block py-0.5 no-underline hover:underline"
              href={`/courses/${pile.course.slug}`}
            >
              {pile.course.title}
            </a>{" "}
            ·{" "}
            <a
              className="inline-block py-0.5 no-underline hover:underline"
              href={`/quizzes/${pile.quizId}/staff`}
            >
              {pile.title}
            </a>
          </p>
          <h1 className="truncate font-read text-xl font-medium">
            {question ? question.title : t("marking.room.marking")}
          </h1>
        </div>
        <div className="w-60 max-sm:w-full" aria-live="off">
          <p className="flex justify-between text-sm">
            <b>{t("marking.room.done-of", { done, all: lines.length })}</b>
            <span className="text-ink-2">{t("marking.room.await-marking", { waiting })}</span>
          </p>
          <div className="mt-1.5 h-1.5 bg-sunk" aria-hidden="true">
            <div
              className="h-full bg-indigo"
              style={{ width: `${lines.length === 0 ? 0 : (done / lines.length) * 100}%` }}
            />
          </div>
        </div>
        <button
          type="button"
          className="button"
          aria-pressed={pile.namesHidden}
          onClick={() => void store.setView({ namesHidden: !pile.namesHidden })}
        >
          {pile.namesHidden ? t("marking.room.show-names") : t("marking.room.hide-names")}
        </button>
        <button type="button" className="button" aria-pressed={asks} onClick={() => setAsks(!asks)}>
          {t("marking.room.the-question-and-its-model")}
        </button>
      </section>
      <div className="flex flex-1 flex-col lg:min-h-0 lg:flex-row">
        <details className="border-b border-line bg-margin lg:hidden">
          <summary className="flex min-h-11 items-center px-4 font-bold">
            {here ? t("marking.room.the-pile-at", { paper: nameHere(state) }) : t("marking.pile.the-pile")}
          </summary>
          <div className="flex max-h-[60dvh] flex-col">
            <PileOf store={store} />
          </div>
        </details>
        <div className="sticky top-0 hidden h-[calc(100dvh-3.8rem)] w-60 shrink-0 border-r border-line bg-margin lg:flex lg:flex-col [&>nav]:flex-1">
          <PileOf store={store} />
        </div>
        <div className="flex min-w-0 flex-1 flex-col">
          <main id="content" className="mx-auto w-full max-w-[46rem] flex-1 px-8 pt-6 pb-10 max-sm:px-4">
            {!here || !answer ? (
              <div className="py-10">
                <p className="font-read text-xl">
                  {here && !answer && !state.problem
                    ? t("marking.room.one-moment")
                    : pile.lines.length === 0
                      ? t("marking.room.nothing-has-been-handed-in-to-mark")
                      : t("marking.room.choose-an-answer-from-the-pile")}
                </p>
                {state.problem && <Trouble words={state.problem} />}
              </div>
            ) : (
              <>
                {asks && <QuestionAside answer={answer} />}
                <div className="flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1">
                  <h2 className="flex flex-wrap items-baseline gap-x-4">
                    <b>{paperName(answer)}</b>
                    <span className="small">
                      {[answer.handedIn, answer.late].filter(Boolean).join(t("joint.dots"))}
                    </span>
                  </h2>
                  <span className="small">{sizeWords(answer)}</span>
                </div>
                {state.holder && (
                  <div
                    className="mt-3 flex flex-wrap items-center justify-between gap-3 border-l-[3px] border-ochre bg-ochre-2 px-4 py-2.5"
                    role="status"
                  >
                    <p>
                      {state.holder.isSelf
                        ? t("marking.room.open-on-another-page-of-yours")
                        : t("marking.room.has-this-answer-open-you-may-read", { name: state.holder.name })}
                    </p>
                    <button type="button" className="button" onClick={() => void store.takeOver()}>
                      {t("marking.room.take-it-over")}
                    </button>
                  </div>
                )}
                {answer.lateWriting && (
                  <p className="mt-3 border-l-[3px] border-ochre bg-ochre-2 px-4 py-2.5">
                    {t("marking.room.something-came-late")}{" "}
                    <a className="underline" href={`/quizzes/${pile.quizId}/late`}>
                      {t("marking.room.decide-it-first")}
                    </a>
                  </p>
                )}
                {answer.talk.lines > 0 && (
                  <p className="mt-3 border-l-[3px] border-indigo bg-indigo-2 px-4 py-2.5">
                    {answer.talk.waits
                      ? t("marking.room.its-student-asks")
                      : t("marking.room.its-student-asked")}{" "}
                    <a className="underline" href={`/questions?quiz=${pile.quizId}`}>
                      {t("marking.room.read-the-talk")}
                    </a>
                  </p>
                )}
                {state.answerChanged && !state.elsewhere && (
                  <div role="alert" className="mt-3 border-l-[3px] border-plum bg-plum-2 px-4 py-3">
                    <p>{t("marking.room.the-answer-has-changed")}</p>
                    <button type="button" className="button mt-3" onClick={store.stillHolds}>
                      {t("marking.room.it-holds-for-this-answer-too")}
                    </button>
                  </div>
                )}
                {state.elsewhere && (
                  <Elsewhere
                    standing={state.elsewhere}
                    answer={answer}
                    zone={terms.zone}
                    onChoose={(which) => store.choose(which)}
                  />
                )}
                <div className="mt-3">
                  <AnswerSheet answer={answer} work={work} mayWrite={mayWrite} onPin={pin} />
                </div>
                {answer.earlier.length > 0 && <Earlier answer={answer} />}
                <section
                  className="mt-6"
                  aria-label={answer.rubric ? t("marking.room.by-the-rubric") : t("marking.room.marks")}
                >
                  {answer.rubric && work.marks === null && (
                    <>
                      <h2 className="label mb-2">{t("marking.room.by-the-rubric")}</h2>
                      <Ladder
                        answer={answer}
                        work={work}
                        disabled={!mayWrite}
                        current={current}
                        remarks={pile.remarks}
                        more={more}
                        onMore={setMore}
                        onPick={pick}
                        onPoints={(criterion, points) =>
                          store.change(criterionMark(criterion, { points, level: undefined }), null)
                        }
                        onRemark={(criterion, remark) =>
                          store.change(criterionMark(criterion, { remark }), null)
                        }
                        onUsed={used}
                      />
                    </>
                  )}
                  <MarksLine
                    answer={answer}
                    work={work}
                    marking={marking}
                    disabled={!mayWrite}
                    onMarks={(marks, words) => store.change({ ...work, marks }, words)}
                    onReason={(reason) => store.change({ ...work, reason }, null)}
                    onNext={goNext}
                  />
                </section>
                {state.problem && !state.answerChanged && <Trouble words={state.problem} />}
              </>
            )}
          </main>
          <footer className="sticky bottom-0 z-10 flex flex-wrap items-center gap-x-5 gap-y-2 border-t border-line bg-paper px-8 py-2.5 max-sm:px-4">
            <p
              role="status"
              className={`text-[0.8125rem] ${words.mood === "safe" ? "text-moss" : words.mood === "refused" ? "text-plum" : words.mood === "waiting" ? "text-ochre" : "text-ink-2"}`}
            >
              {words.mood === "safe" && state.savedAt !== null && "✓ "}
              {words.words}
            </p>
            {state.signedOut && (
              <button type="button" className="button" onClick={() => setSigningIn(true)}>
                {t("keeping.sign-in-again.sign-in-again")}
              </button>
            )}
            {state.undo && mayWrite && (
              <button
                type="button"
                className="small inline-flex min-h-8 items-center gap-2"
                onClick={store.undo}
              >
                {t("marking.room.undo", { words: state.undo.words })} <kbd className="key">Z</kbd>
              </button>
            )}
            <div className="ml-auto flex gap-2.5">
              <button
                type="button"
                className="button"
                disabled={!here || !beside(state, here, -1)}
                onClick={() => step(-1)}
              >
                ← <span className="max-sm:sr-only">{t("marking.room.before")}</span>
              </button>
              <button
                type="button"
                className="button"
                disabled={!here || !beside(state, here, 1)}
                onClick={() => step(1)}
              >
                <span className="max-sm:sr-only">{t("marking.room.after")}</span> →
              </button>
              {next ? (
                <button type="button" className="button button-main" onClick={goNext}>
                  {t("marking.room.next-that-awaits")} <kbd className="key key-on max-sm:hidden">N</kbd>
                </button>
              ) : (
                <a
                  className="button button-main"
                  href={`/quizzes/${pile.quizId}/${pile.mayReturn && waiting === 0 ? "returning" : "staff"}`}
                >
                  {waiting === 0
                    ? pile.mayReturn
                      ? t("marking.room.all-marked-return")
                      : t("marking.room.all-marked")
                    : t("marking.room.back-to-the-quiz")}
                </a>
              )}
            </div>
          </footer>
        </div>
        {here && answer && (
          <aside
            className="border-line bg-margin px-6 py-6 max-lg:border-t lg:w-72 lg:shrink-0 lg:border-l xl:w-[19rem]"
            aria-label={t("marking.room.what-you-write-beside-it")}
          >
            <Margin
              work={work}
              whole={state.whole}
              disabled={!mayWrite}
              remarks={pile.remarks}
              fresh={fresh}
              feedbackField={feedbackField}
              onNotes={(notes, words) => store.change({ ...work, notes }, words)}
              onFeedback={(feedback) => store.change({ ...work, feedback }, null)}
              onWhole={(feedback) => store.changeWhole({ ...state.whole, feedback })}
              onUsed={used}
              onKeep={setKeeping}
            />
            <p className="small mt-7">
              {t("marking.room.select-words-to-write")} <kbd className="key">M</kbd>{" "}
              {t("marking.room.margin")}, <kbd className="key">/</kbd> {t("marking.room.a-remark")},{" "}
              <kbd className="key">N</kbd> {t("marking.room.next")},{" "}
              <button type="button" className="min-h-6 underline" onClick={() => setKeys(true)}>
                <kbd className="key">?</kbd> {t("marking.room.all-keys")}
              </button>
            </p>
          </aside>
        )}
      </div>
      <RoomKeys open={keys} onOpenChange={setKeys} />
      <SignInAgain
        email={terms.email}
        signIn={(password) => store.signInAgain(password)}
        open={signingIn}
        onOpenChange={setSigningIn}
      />
      <Dialog.Root open={keeping !== null} onOpenChange={(open) => !open && setKeeping(null)}>
        {keeping !== null && (
          <KeepRemark
            text={keeping}
            onKeep={(keep) => store.remarks({ keep })}
            onDone={() => setKeeping(null)}
          />
        )}
      </Dialog.Root>
    </div>
  );
}

const nameHere = ({ pile, here }: ReturnType<RoomStore["state"]>): string => {
  const line = here && pile.lines.find((each) => keyOf(each) === keyOf(here));
  return line ? paperName(line) : "";
};

const sizeWords = ({ size, words }: NonNullable<ReturnType<RoomStore["state"]>["answer"]>): string => {
  if (!words || (words.least === undefined && words.most === undefined)) return say(size);
  const asked =
    words.least !== undefined && words.most !== undefined
      ? t("marking.room.to-asked", { least: words.least, most: words.most })
      : words.most !== undefined
        ? t("marking.room.at-most-asked", { most: words.most })
        : t("marking.room.at-least-asked", { least: words.least ?? 0 });
  return `${say(size)}, ${asked}`;
};

function PileOf({ store }: { readonly store: RoomStore }) {
  const { pile, filter, here } = useSyncExternalStore(store.subscribe, store.state, store.state);
  const show = useCallback((place: Place) => void store.show(place), [store]);
  return (
    <Pile
      pile={pile}
      filter={filter}
      here={here}
      onFilter={(change) => store.setFilter(change)}
      onShow={show}
      onByStudent={(byStudent) => void store.setView({ byStudent })}
    />
  );
}

const Trouble = ({ words }: { readonly words: string }) => (
  <p role="alert" className="mt-4 border-l-[3px] border-plum bg-plum-2 px-4 py-2.5 text-plum">
    {words}
  </p>
);

/** What its student wrote to the same question before, and was told then. */
function Earlier({ answer }: { readonly answer: NonNullable<ReturnType<RoomStore["state"]>["answer"]> }) {
  return (
    <details className="mt-4">
      <summary className="small min-h-6 font-bold">
        {t("marking.room.earlier-attempts", { count: answer.earlier.length })}
      </summary>
      {answer.earlier.map((each) => (
        <div
          key={each.number}
          className="mt-3 border-l-[3px] border-line-2 pl-4"
          lang={answer.answerLanguage}
        >
          <p className="small">
            {t("marking.room.attempt", { number: each.number })}
            {each.marks && ` · ${each.marks}`}
          </p>
          <RichText className="reading essay text-[1.0625rem]" html={each.rich} />
          {each.feedback && (
            <RichText className="reading mt-2 border-l-[3px] border-indigo pl-3" html={each.feedback} />
          )}
        </div>
      ))}
    </details>
  );
}
