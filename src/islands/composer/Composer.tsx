import { Redo2, Undo2 } from "lucide-react";
import {
  lazy,
  Suspense,
  useCallback,
  useDeferredValue,
  useEffect,
  useMemo,
  useState,
  useSyncExternalStore,
} from "react";
import { assembled } from "@/core/draft/assembled";
import type { DraftView } from "@/core/draft/draft-view";
import {
  HEAD,
  headOf,
  OUTLINE,
  outlineOf,
  type Pieces,
  questionOf,
  RULES,
  rulesOf,
} from "@/core/draft/pieces";
import { stepWords } from "@/core/draft/step-words";
import { shown } from "@/core/numbers/exact";
import type { UnitMeanings } from "@/core/numbers/unit-names";
import { questionCount, quizMaximum, splitFile } from "@/core/quiz/quiz-file";
import { say, t } from "@/words/t";
import { SignInAgain } from "../keeping/SignInAgain";
import { saveWords } from "../keeping/save-words";
import { composeAside } from "../kinds/composing";
import { AuthorPicturesOf } from "../kinds/writing/author-pictures";
import { AddQuestion } from "./AddQuestion";
import { type Counted, Sentences, StepsList } from "./Aside";
import { ComposerStore } from "./composer-store";
import { copiedQuestion, holdsQuestions, pasteQuestions } from "./copied-questions";
import { DraftDeeds } from "./draft-deeds";
import { Elsewhere } from "./Elsewhere";
import { Feel } from "./Feel";
import { FromBank } from "./FromBank";
import { HeadWritten } from "./HeadWritten";
import { History } from "./History";
import { PaperList } from "./PaperList";
import { Past } from "./Past";
import { drawnValues, NO_VALUES, QuestionWritten } from "./QuestionWritten";
import { RulesWritten } from "./RulesWritten";
import { SectionWritten } from "./SectionWritten";
import { stepPlace } from "./step-place";
import { usePastSittings } from "./use-past-sittings";
import { usePictures } from "./use-pictures";

/** It knows the plain form, which most who write never need. */
const QuickWriting = lazy(() => import("./QuickWriting"));

const isField = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || target.matches("input, textarea, select"));

/** The quiz as it would be assigned, with its settings; null while something in it cannot be counted. */
function counted(pieces: Pieces, meanings: UnitMeanings): Counted | null {
  try {
    const split = splitFile(assembled(pieces).quiz, meanings);
    // What has no figure shows itself here.
    quizMaximum(split.content);
    return split;
  } catch {
    return null;
  }
}

/** A quiz that is being written: the paper on the left, what one writes in the middle, what it comes to on the right. */
export function Composer({ view }: { readonly view: DraftView }) {
  const [store] = useState(() => new ComposerStore(view));
  const [deeds] = useState(() => new DraftDeeds(store));
  const state = useSyncExternalStore(store.subscribe, store.state, store.state);
  useEffect(() => store.open(), [store]);
  const [draw, setDraw] = useState(1);
  const [signingIn, setSigningIn] = useState(false);
  const [isHistory, setHistory] = useState(false);
  const [isFromBank, setFromBank] = useState(false);
  const [isAsText, setAsText] = useState(false);
  const [quickText, setQuickText] = useState("");
  const { pieces, here, steps } = state;
  const pictures = usePictures(store, pieces, steps);
  // What the whole comes to may be a moment behind what is typed.
  const settled = useDeferredValue(pieces);
  const whole = useMemo(() => counted(settled, view.unitMeanings), [settled, view.unitMeanings]);
  const words = saveWords(state, view.zone);
  const must = steps?.filter((step) => step.must).length ?? null;
  const paste = useCallback(
    async (text: string) => {
      try {
        const count = await pasteQuestions(store, deeds, text);
        store.tell(
          count === 0 ? t("composer.composer.nothing-copied") : t("composer.composer.pasted", { count }),
        );
      } catch (error) {
        store.fail(error);
      }
    },
    [store, deeds],
  );

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.altKey) return;
      const key = event.key.toLowerCase();
      // In the editors too: what was done is undone in the draft as a whole.
      if (key === "z" || key === "y") {
        event.preventDefault();
        if (key === "y" || event.shiftKey) store.redo();
        else store.undo();
      }
    };
    const onPaste = (event: ClipboardEvent) => {
      const text = event.clipboardData?.getData("text/plain") ?? "";
      if (!holdsQuestions(text)) return;
      event.preventDefault();
      event.stopPropagation();
      void paste(text);
    };
    document.addEventListener("keydown", onKey, true);
    document.addEventListener("paste", onPaste, true);
    return () => {
      document.removeEventListener("keydown", onKey, true);
      document.removeEventListener("paste", onPaste, true);
    };
  }, [store, paste]);

  // What is gone to is seen from its beginning.
  const place = here.kind === "piece" ? String(here.slot) : here.id;
  useEffect(() => {
    if (place) document.getElementById("composed")?.scrollTo({ top: 0 });
  }, [place]);

  // What is written as text is no part of the draft yet: the page is not left over it in silence.
  const hasQuickText = quickText.trim() !== "";
  useEffect(() => {
    if (!hasQuickText) return;
    const hold = (event: BeforeUnloadEvent) => event.preventDefault();
    addEventListener("beforeunload", hold);
    return () => removeEventListener("beforeunload", hold);
  }, [hasQuickText]);

  const slot = here.kind === "piece" ? here.slot : 0;
  const question = questionOf(pieces, slot);
  const outline = outlineOf(pieces);
  const order = outline.sections.flatMap(({ questions }) => questions);
  const mistakes = useMemo(() => {
    const found = new Map<string, string>();
    const at = here.kind === "section" ? OUTLINE : slot;
    for (const step of steps ?? [])
      if (step.slot === at && step.must && !found.has(step.path)) found.set(step.path, say(stepWords(step)));
    return found;
  }, [steps, slot, here.kind]);
  const head = headOf(pieces);
  const language = head.language ?? view.language;
  const section = here.kind === "section" ? outline.sections.find(({ id }) => id === here.id) : undefined;
  const KindAside = question && composeAside(question.kind);
  const written = useDeferredValue(question);
  const values = useMemo(() => (written ? drawnValues(written, draw) : NO_VALUES), [written, draw]);
  const piece = pieces.get(slot);
  const link = piece?.piece === "question" ? piece.bank : undefined;
  const isDrawn = outline.sections.some(({ bank, questions }) => bank && questions.includes(slot));
  const past = usePastSittings(store, state.quizId);
  const pastQuestion = past?.questions.find(({ id }) => id === question?.id);
  const elsewhere = state.elsewhere.get(slot);
  // Where both states are before one, that says it.
  const refusals = state.refusals.filter((refusal) => !elsewhere || refusal.slot !== slot);
  const leave = async (event: { preventDefault: () => void }, href: string) => {
    event.preventDefault();
    if (await store.saveNow()) location.assign(href);
  };
  return (
    <AuthorPicturesOf pictures={pictures}>
      <div className="flex flex-col lg:h-[calc(100dvh-3.8rem)]" data-ready="true" data-saved={state.allSaved}>
        <section
          aria-label={t("composer.composer.this-draft")}
          className="flex flex-wrap items-center gap-x-5 gap-y-2 border-b border-line px-8 py-2.5 max-sm:px-4"
        >
          <div className="min-w-0 flex-1 basis-72">
            <p className="small">
              <a className="inline-block py-0.5" href={`/courses/${view.course.slug}/writing`}>
                {view.course.title}
              </a>{" "}
              ·{" "}
              {state.quizId === null
                ? t("composer.composer.draft-nobody-sees-it")
                : t("composer.composer.assigned-changes-when-assigned-again")}
            </p>
            <h1
              lang={language}
              className="truncate max-sm:whitespace-normal font-read text-[1.5rem] leading-tight font-medium"
            >
              {head.title.trim() === "" ? t("composer.composer.without-a-title") : head.title}
            </h1>
          </div>
          <span className="flex">
            <button
              type="button"
              className="grid size-10 place-items-center text-ink-2 disabled:text-ink-3"
              disabled={state.undo === null}
              aria-label={
                state.undo === null
                  ? t("composer.composer.nothing-to-undo")
                  : t("composer.composer.undo", { words: state.undo })
              }
              title={
                state.undo === null
                  ? t("composer.composer.nothing-to-undo")
                  : t("composer.composer.undo", { words: state.undo })
              }
              onClick={store.undo}
            >
              <Undo2 aria-hidden="true" className="size-5" />
            </button>
            <button
              type="button"
              className="grid size-10 place-items-center text-ink-2 disabled:text-ink-3"
              disabled={state.redo === null}
              aria-label={
                state.redo === null
                  ? t("composer.composer.nothing-to-do-again")
                  : t("composer.composer.redo", { words: state.redo })
              }
              title={
                state.redo === null
                  ? t("composer.composer.nothing-to-do-again")
                  : t("composer.composer.redo", { words: state.redo })
              }
              onClick={store.redo}
            >
              <Redo2 aria-hidden="true" className="size-5" />
            </button>
          </span>
          <p
            role="status"
            className={`min-w-40 text-sm ${words.mood === "safe" ? "text-moss" : words.mood === "refused" ? "font-bold text-plum" : words.mood === "waiting" ? "text-ochre" : "text-ink-2"}`}
          >
            {words.words}
          </p>
          {must !== null && must > 0 && (
            <a href="#to-put-right" className="text-sm font-bold text-plum no-underline hover:underline">
              {t("composer.composer.things-to-put-right", { count: must })}
            </a>
          )}
          <button type="button" className="button" onClick={() => setHistory(true)}>
            {t("composer.composer.history")}
          </button>
          <a
            className="button"
            href={`/drafts/${view.id}/trial`}
            onClick={(event) => void leave(event, `/drafts/${view.id}/trial`)}
          >
            {t("composer.composer.try-it-out")}
          </a>
          <a
            className="button button-main"
            href={`/drafts/${view.id}/assign`}
            onClick={(event) => void leave(event, `/drafts/${view.id}/assign`)}
          >
            {state.quizId === null ? t("composer.composer.assign") : t("composer.composer.assign-again")}
          </a>
        </section>
        {(state.problem || state.signedOut || state.others.length > 0 || refusals.length > 0) && (
          <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line bg-sunk px-8 py-1.5 text-sm max-sm:px-4">
            {state.problem && (
              <p role="alert" className="text-plum">
                {state.problem}
              </p>
            )}
            {refusals.map((refusal) => (
              <p key={refusal.slot} role="alert" className="text-plum">
                <button
                  type="button"
                  className="min-h-6 underline"
                  onClick={() => store.go(stepPlace(pieces, { ...refusal, path: "" }).here)}
                >
                  {stepPlace(pieces, { ...refusal, path: "" }).name}
                </button>
                {": "}
                {refusal.sentence}
              </p>
            ))}
            {state.signedOut && (
              <button type="button" className="button" onClick={() => setSigningIn(true)}>
                {t("keeping.sign-in-again.sign-in-again")}
              </button>
            )}
            {state.others.length > 0 && (
              <p role="status">
                {state.others.some(({ isSelf }) => !isSelf)
                  ? t("composer.composer.also-writing", {
                      names: [
                        ...new Set(state.others.filter(({ isSelf }) => !isSelf).map(({ name }) => name)),
                      ].join(t("joint.commas")),
                    })
                  : t("composer.composer.open-in-another-window")}
              </p>
            )}
          </div>
        )}
        <p role="status" className="sr-only">
          {state.told}
        </p>
        <p id="paper-keys" className="sr-only">
          {t("composer.composer.keys-of-the-paper")}
        </p>
        <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] lg:grid-cols-[16rem_minmax(0,1fr)_18.5rem]">
          <div className="flex flex-col bg-margin max-lg:border-b max-lg:border-line lg:min-h-0 lg:border-r lg:border-line">
            <p className="flex items-baseline justify-between gap-3 px-4 pt-4 pb-1">
              <span className="label">{t("composer.paper-list.the-paper")}</span>
              <span className="small">
                {t("composer.composer.questions", {
                  count: whole ? questionCount(whole.content) : order.length,
                })}
                {whole && (
                  <>
                    {t("joint.commas")}
                    {t("composer.composer.marks-in-all", {
                      marks: Number(shown(quizMaximum(whole.content))),
                    })}
                  </>
                )}
              </span>
            </p>
            <div className="min-h-0 flex-1 overflow-y-auto max-lg:max-h-72">
              <PaperList store={store} deeds={deeds} state={state} />
            </div>
            <div className="border-t border-line p-3">
              <AddQuestion
                deeds={deeds}
                onAsText={() => setAsText(true)}
                onFromBank={() => setFromBank(true)}
                onPaste={() =>
                  void navigator.clipboard
                    .readText()
                    .then(paste)
                    .catch(() => store.tell(t("composer.composer.paste-by-keys")))
                }
              />
            </div>
          </div>
          {/* biome-ignore lint/a11y/noStaticElementInteractions: a field within it is left */}
          <div
            id="composed"
            tabIndex={-1}
            className="min-w-0 overflow-y-auto px-8 py-7 outline-none max-sm:px-4"
            onBlur={(event) => isField(event.target) && store.fieldLeft()}
          >
            {elsewhere && (
              <Elsewhere
                standing={elsewhere}
                mine={pieces.get(slot)}
                onChoose={(which) => store.choose(slot, which)}
              />
            )}
            {here.kind === "piece" && slot === HEAD && (
              <HeadWritten store={store} head={head} mistakes={mistakes} />
            )}
            {here.kind === "piece" && slot === RULES && (
              <RulesWritten store={store} rules={rulesOf(pieces)} zone={view.zone} mistakes={mistakes} />
            )}
            {section && (
              <SectionWritten
                key={section.id}
                store={store}
                deeds={deeds}
                section={section}
                place={outline.sections.indexOf(section)}
                count={outline.sections.length}
                language={language}
                mistakes={mistakes}
              />
            )}
            {question && (
              <QuestionWritten
                key={slot}
                store={store}
                deeds={deeds}
                slot={slot}
                question={question}
                number={order.indexOf(slot) + 1}
                language={language}
                mistakes={mistakes}
                draw={draw}
                values={values}
                bank={link}
                isDrawn={isDrawn}
                onDraw={() => setDraw(draw + 1)}
                onCopy={() =>
                  void navigator.clipboard
                    .writeText(copiedQuestion(pieces, slot, store.path))
                    .then(() => store.tell(t("composer.composer.copied")))
                    .catch(() => store.tell(t("composer.composer.could-not-be-copied")))
                }
              />
            )}
          </div>
          <aside
            aria-label={t("composer.composer.what-it-comes-to")}
            className="grid content-start gap-8 overflow-y-auto border-l border-line bg-margin px-5 py-6 max-lg:border-t max-lg:border-l-0"
          >
            {KindAside && question && (
              <KindAside
                key={slot}
                question={question}
                slot={slot}
                language={language}
                mistakes={mistakes}
                values={values}
                numbers={state.numbers}
                newName={store.newName}
                onChange={(next, what, typedIn) => deeds.changeQuestion(slot, next, what, typedIn ?? null)}
              />
            )}
            <StepsList store={store} state={state} />
            {pastQuestion && state.quizId !== null && <Past question={pastQuestion} quizId={state.quizId} />}
            <Sentences store={store} counted={whole} zone={view.zone} />
            <Feel counted={whole} past={past} />
            <p>
              <a
                className="inline-block min-h-6 py-0.5 text-sm"
                href={`/drafts/${view.id}/quiz.zip`}
                onClick={(event) => void leave(event, `/drafts/${view.id}/quiz.zip`)}
              >
                {t("composer.composer.take-out")}
              </a>
            </p>
          </aside>
        </div>
      </div>
      <SignInAgain
        email={view.email}
        signIn={(password) => store.signInAgain(password)}
        open={signingIn}
        onOpenChange={setSigningIn}
      />
      {isFromBank && <FromBank store={store} deeds={deeds} onClose={() => setFromBank(false)} />}
      {isAsText && (
        <Suspense fallback={null}>
          <QuickWriting
            store={store}
            deeds={deeds}
            text={quickText}
            onText={setQuickText}
            onClose={() => setAsText(false)}
          />
        </Suspense>
      )}
      {isHistory && <History store={store} zone={view.zone} onClose={() => setHistory(false)} />}
    </AuthorPicturesOf>
  );
}
