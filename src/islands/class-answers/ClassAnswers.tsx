import { useEffect, useRef, useState } from "react";
import type { Said } from "@/core/said";
import { Listening } from "@/ui/Listening";
import { RichText } from "@/ui/RichText";
import { ask, refusalOr } from "@/ui/requests";
import { say, t } from "@/words/t";
import { nearDay } from "@/words/times";
import { Changes, type Preview } from "./Changes";

interface Group {
  readonly part: number;
  readonly label: Said | null;
  readonly identity: string;
  readonly written: readonly Said[];
  readonly why: Said;
  readonly state: string;
  readonly credit: string | null;
  readonly people: number;
}

interface History {
  readonly id: string;
  readonly reason: string;
  readonly done: number;
  readonly total: number;
  readonly state: "working" | "done" | "refused" | "undone";
  readonly by: string;
  readonly at: number;
  readonly isUndo: boolean;
}

interface ClassAnswersProps {
  readonly quizId: string;
  readonly language: string;
  readonly question: {
    readonly id: string;
    readonly text: string;
    readonly maximum: string;
    readonly right: readonly Said[];
    readonly canBeKeyed: boolean;
    readonly isDrawn: boolean;
  };
  readonly groups: readonly Group[];
  readonly history: readonly History[];
  readonly now: number;
  readonly zone: string;
  /** What marking by the key as it stands now would change is shown from the beginning. */
  readonly asNow: boolean;
}

/** What is to be changed, before it is shown what it does. */
type Wish =
  | { readonly kind: "credit"; readonly credit: string; readonly groups: readonly Group[] }
  | { readonly kind: "key"; readonly group: Group }
  | { readonly kind: "drop"; readonly dropped: "marks-to-all" | "out-of-the-maximum" }
  | { readonly kind: "as-now" }
  | { readonly kind: "undo"; readonly id: string };

const CREDITS = ["1", "1/2"] as const;
const keyOf = ({ part, identity, credit, state }: Group) => JSON.stringify([part, identity, credit, state]);

function changeOf(wish: Wish): object {
  switch (wish.kind) {
    case "credit":
      return {
        kind: "credit",
        credit: wish.credit,
        groups: wish.groups.map(({ part, identity }) => ({ part, identity })),
      };
    case "key":
      return {
        kind: "key",
        part: wish.group.part,
        identity: wish.group.identity,
        written: say(wish.group.written[0] ?? ""),
      };
    case "drop":
      return { kind: "drop", dropped: wish.dropped };
    case "as-now":
      return { kind: "as-now" };
    case "undo":
      return { kind: "undo", undoes: wish.id };
  }
}

/** All answers to a question, the same ones together; what is wrong in its marking is put right from here. */
export function ClassAnswers(props: ClassAnswersProps) {
  const { quizId, language, question, groups, history, now, zone, asNow } = props;
  const [picked, setPicked] = useState<readonly string[]>([]);
  const [credit, setCredit] = useState<string>("1");
  const [wish, setWish] = useState<Wish | null>(null);
  const [reason, setReason] = useState("");
  const [preview, setPreview] = useState<Preview | null>(null);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [runs, setRuns] = useState(history);
  const [asks, setAsks] = useState(false);
  const most = Math.max(1, ...groups.map(({ people }) => people));
  const chosen = groups.filter((group) => picked.includes(keyOf(group)));
  const only = chosen.length === 1 ? chosen[0] : undefined;
  const path = `/api/quizzes/${quizId}/re-marking`;
  const fail = (error: unknown) =>
    setProblem(refusalOr(error, t("class-answers.class-answers.the-server-cannot-be-reached")));

  const look = async (next: Wish) => {
    setWish(next);
    setPreview(null);
    setProblem(null);
    setBusy(true);
    try {
      const answer = await ask<{ preview: Preview }>(path, {
        body: { question: question.id, change: changeOf(next) },
      });
      setPreview(answer.preview);
    } catch (error) {
      fail(error);
    }
    setBusy(false);
  };
  const markAgain = async () => {
    if (!wish || !preview) return;
    setBusy(true);
    setProblem(null);
    try {
      await ask(path, {
        body: { question: question.id, change: changeOf(wish), reason, expects: preview.expects },
      });
      setWish(null);
      setPreview(null);
      setPicked([]);
      setReason("");
      setRuns(await ask<History[]>(path).then((all) => all.filter((run) => ofQuestion(run, question.id))));
    } catch (error) {
      fail(error);
    }
    setBusy(false);
  };
  const working = runs.some(({ state }) => state === "working");
  const begin = useRef(look);
  useEffect(() => {
    if (asNow) void begin.current({ kind: "as-now" });
  }, [asNow]);
  useEffect(() => {
    if (!working) return;
    const timer = setInterval(async () => {
      try {
        const all = await ask<History[]>(path);
        const own = all.filter((run) => ofQuestion(run, question.id));
        setRuns(own);
        // What is listed is no longer what it was.
        if (own.every(({ state }) => state !== "working") && own.some(({ state }) => state !== "refused"))
          location.reload();
      } catch {
        // Asked again in a moment.
      }
    }, 700);
    return () => clearInterval(timer);
  }, [working, path, question.id]);
  const last = runs.find(({ state, isUndo }) => state === "done" && !isUndo);

  return (
    <Listening className="mt-6 grid gap-x-10 gap-y-8 lg:grid-cols-[minmax(0,1fr)_23rem]">
      <div>
        <button type="button" className="button mb-4" aria-expanded={asks} onClick={() => setAsks(!asks)}>
          {t("class-answers.class-answers.the-question-and-its-key")}
        </button>
        {asks && (
          <div className="mb-6 border-l-[3px] border-line-2 pl-4">
            <RichText lang={language} className="reading text-[1.0625rem]" html={question.text} />
            {question.right.length > 0 && (
              <p className="mt-2">
                <span className="small">{t("class-answers.class-answers.key")} </span>
                <b lang={language}>{question.right.map((right) => say(right)).join(t("joint.semicolons"))}</b>
              </p>
            )}
          </div>
        )}
        {question.isDrawn && (
          <p className="mb-4 border-l-[3px] border-ochre bg-ochre-2 px-4 py-2.5">
            {t("class-answers.class-answers.values-differ")}
          </p>
        )}
        <div className="relative overflow-x-auto">
          <table className="w-full border-t border-ink text-left">
            <thead className="small">
              <tr>
                <th scope="col" className="w-10 py-2">
                  <span className="sr-only">{t("class-answers.class-answers.pick")}</span>
                </th>
                <th scope="col" className="w-44 py-2 pr-4">
                  {t("class-answers.class-answers.how-many")}
                </th>
                <th scope="col" className="py-2 pr-4">
                  {t("class-answers.class-answers.written")}
                </th>
                <th scope="col" className="py-2 pr-4">
                  {t("class-answers.class-answers.why-it-was-marked-so")}
                </th>
                <th scope="col" className="py-2 text-right">
                  {t("class-answers.class-answers.credit")}
                </th>
              </tr>
            </thead>
            <tbody>
              {groups.map((group) => {
                const key = keyOf(group);
                const isPicked = picked.includes(key);
                const isEmpty = group.state === "empty";
                const words = group.written.map((written) => say(written)).filter(Boolean);
                return (
                  <tr key={key} className={`border-t border-line ${isPicked ? "bg-indigo-2" : ""}`}>
                    <td className="py-2.5 pl-2">
                      {!isEmpty && (
                        <input
                          type="checkbox"
                          className="size-4.5 translate-y-0.5"
                          aria-label={t("class-answers.class-answers.pick-answer", { words: words[0] ?? "" })}
                          checked={isPicked}
                          onChange={(event) => {
                            setPicked(
                              event.target.checked ? [...picked, key] : picked.filter((each) => each !== key),
                            );
                            setWish(null);
                            setPreview(null);
                          }}
                        />
                      )}
                    </td>
                    <td className="py-2.5 pr-4">
                      <span className="flex items-center gap-2">
                        <span
                          aria-hidden="true"
                          className={`h-2 shrink-0 ${group.state === "full" ? "bg-indigo" : "bg-line-2"}`}
                          style={{ width: `${Math.max(0.5, (group.people / most) * 5.5)}rem` }}
                        />
                        <span className="small whitespace-nowrap">
                          {t("class-answers.class-answers.people", { people: group.people })}
                        </span>
                      </span>
                    </td>
                    <td className="py-2.5 pr-4 font-read text-[1.0625rem]" lang={language}>
                      {group.label !== null && <span className="small mr-2">{say(group.label)}</span>}
                      {isEmpty ? (
                        <i className="text-ink-2">{t("class-answers.class-answers.empty")}</i>
                      ) : (
                        words.slice(0, 3).join(t("joint.commas"))
                      )}
                      {words.length > 3 && (
                        <span className="small">
                          {" "}
                          {t("class-answers.class-answers.and-more-ways", { more: words.length - 3 })}
                        </span>
                      )}
                    </td>
                    <td className="py-2.5 pr-4 text-[0.8125rem] text-ink-2">{say(group.why)}</td>
                    <td className="py-2.5 text-right font-bold">{group.credit ?? "?"}</td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
        {runs.length > 0 && (
          <section className="mt-8" aria-labelledby="again">
            <h2 id="again" className="label">
              {t("class-answers.class-answers.what-was-changed-in-its-marking")}
            </h2>
            <ol className="mt-2 border-t border-line">
              {runs.map((run) => (
                <li key={run.id} className="border-b border-line py-2.5">
                  <p>
                    <b>{stateWords(run)}</b> “{run.reason}”
                  </p>
                  <p className="small">
                    {run.by} · {nearDay(run.at, now, zone)}
                  </p>
                  {run.state === "working" && (
                    <progress
                      className="mt-1 h-2 w-full accent-indigo"
                      max={Math.max(1, run.total)}
                      value={run.done}
                      aria-label={t("class-answers.class-answers.marking-again")}
                    />
                  )}
                </li>
              ))}
            </ol>
          </section>
        )}
      </div>
      <div className="self-start lg:sticky lg:top-6">
        <section className="sheet p-6" aria-live="polite">
          {wish && (preview || problem) ? (
            <>
              <h2 className="font-read text-xl font-medium">{titleOf(wish)}</h2>
              {preview && (
                <>
                  <label className="mt-3 grid gap-1.5 text-sm">
                    {t("class-answers.class-answers.reason-told-to-the-students")}
                    <input
                      className="field"
                      value={reason}
                      maxLength={500}
                      onChange={(event) => setReason(event.target.value)}
                    />
                  </label>
                  <Changes preview={preview} />
                </>
              )}
              {problem && (
                <p role="alert" className="mt-4 border-l-[3px] border-plum bg-plum-2 px-3 py-2 text-plum">
                  {problem}
                </p>
              )}
              <p className="mt-4 flex flex-wrap gap-3">
                {preview && (
                  <button
                    type="button"
                    className="button button-main"
                    disabled={busy || reason.trim() === ""}
                    onClick={() => void markAgain()}
                  >
                    {t("class-answers.class-answers.mark-again")}
                  </button>
                )}
                <button
                  type="button"
                  className="button button-quiet"
                  onClick={() => {
                    setWish(null);
                    setProblem(null);
                  }}
                >
                  {t("class-answers.class-answers.not-now")}
                </button>
              </p>
              {preview && reason.trim() === "" && (
                <p className="small mt-2">{t("class-answers.class-answers.say-why-first")}</p>
              )}
            </>
          ) : chosen.length > 0 ? (
            <>
              <h2 className="font-read text-xl font-medium">
                {t("class-answers.class-answers.give-these-credit", { count: chosen.length })}
              </h2>
              <fieldset className="mt-3 flex flex-wrap items-center gap-2">
                <legend className="sr-only">{t("class-answers.class-answers.how-much-credit")}</legend>
                {CREDITS.map((each) => (
                  <button
                    key={each}
                    type="button"
                    className={`button ${credit === each ? "button-main" : ""}`}
                    aria-pressed={credit === each}
                    onClick={() => setCredit(each)}
                  >
                    {each === "1" ? t("class-answers.class-answers.full") : "½"}
                  </button>
                ))}
                <label className="flex items-center gap-2 text-sm">
                  {t("class-answers.class-answers.other-share")}
                  <input
                    className="field h-9 min-h-0 w-16 py-0"
                    inputMode="decimal"
                    maxLength={10}
                    value={CREDITS.some((each) => each === credit) ? "" : credit}
                    placeholder="0.25"
                    onChange={(event) => setCredit(event.target.value || "1")}
                  />
                </label>
              </fieldset>
              <p className="mt-4 flex flex-wrap gap-3">
                <button
                  type="button"
                  className="button button-main"
                  disabled={busy}
                  onClick={() => void look({ kind: "credit", credit, groups: chosen })}
                >
                  {t("class-answers.class-answers.see-what-it-changes")}
                </button>
                {only && question.canBeKeyed && (
                  <button
                    type="button"
                    className="button"
                    disabled={busy}
                    onClick={() => void look({ kind: "key", group: only })}
                  >
                    {t("class-answers.class-answers.make-it-the-key")}
                  </button>
                )}
              </p>
            </>
          ) : (
            <>
              <h2 className="font-read text-xl font-medium">
                {t("class-answers.class-answers.put-something-right")}
              </h2>
              <p className="mt-2 text-ink-2">
                {t("class-answers.class-answers.pick-answers-to-give-them-credit")}
              </p>
            </>
          )}
        </section>
        <p className="small mt-4">
          {t("class-answers.class-answers.or")}{" "}
          <button
            type="button"
            className="min-h-6 underline"
            disabled={busy}
            onClick={() => void look({ kind: "drop", dropped: "out-of-the-maximum" })}
          >
            {t("class-answers.class-answers.drop-the-question")}
          </button>
          ,{" "}
          <button
            type="button"
            className="min-h-6 underline"
            disabled={busy}
            onClick={() => void look({ kind: "drop", dropped: "marks-to-all" })}
          >
            {t("class-answers.class-answers.give-the-marks-to-all")}
          </button>
          ,{" "}
          <button
            type="button"
            className="min-h-6 underline"
            disabled={busy}
            onClick={() => void look({ kind: "as-now" })}
          >
            {t("class-answers.class-answers.mark-all-by-the-key-now")}
          </button>
          {last && (
            <>
              ,{" "}
              <button
                type="button"
                className="min-h-6 underline"
                disabled={busy || working}
                onClick={() => void look({ kind: "undo", id: last.id })}
              >
                {t("class-answers.class-answers.undo-the-last-change")}
              </button>
            </>
          )}
          {t("class-answers.class-answers.each-shows-first")}
        </p>
        {problem && !wish && (
          <p role="alert" className="mt-3 text-plum">
            {problem}
          </p>
        )}
      </div>
    </Listening>
  );
}

const ofQuestion = (run: History & { readonly question?: string }, id: string): boolean =>
  run.question === id;

const titleOf = (wish: Wish): string => {
  switch (wish.kind) {
    case "credit":
      return t("class-answers.class-answers.give-these-credit", { count: wish.groups.length });
    case "key":
      return t("class-answers.class-answers.make-the-key", { words: say(wish.group.written[0] ?? "") });
    case "drop":
      return wish.dropped === "marks-to-all"
        ? t("class-answers.class-answers.give-the-marks-to-all-2")
        : t("class-answers.class-answers.drop-the-question-2");
    case "as-now":
      return t("class-answers.class-answers.mark-all-by-the-key-now-2");
    case "undo":
      return t("class-answers.class-answers.undo-the-last-change-2");
  }
};

const stateWords = ({ state, isUndo, done, total }: History): string => {
  if (state === "working") return t("class-answers.class-answers.marking-again-done-of", { done, total });
  if (state === "refused") return t("class-answers.class-answers.not-done-something-changed");
  if (state === "undone") return t("class-answers.class-answers.marked-again-and-taken-back");
  return isUndo ? t("class-answers.class-answers.taken-back") : t("class-answers.class-answers.marked-again");
};
