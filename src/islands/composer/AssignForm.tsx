import { useMemo, useState } from "react";
import type { AssignEffect, AssignView } from "@/core/draft/assign-view";
import { contradictionsOf } from "@/core/quiz/contradictions";
import { instantOfLocal, localText } from "@/core/time/local-time";
import { ask, refusalOr } from "@/ui/requests";
import { useLookedOver } from "@/ui/use-looked-over";
import { say, t } from "@/words/t";
import { type MomentDraft, MomentField } from "../allowances/MomentField";
import { PeoplePicker } from "../allowances/PeoplePicker";
import { Choice, PlainField } from "../kinds/writing/fields";
import { TermAxis } from "./TermAxis";

const NONE: MomentDraft = { kind: "none" };

type WindowDraft = { readonly [W in "opens" | "due" | "closes"]: MomentDraft };

const plannedAt = (at: number | null | undefined, zone: string): MomentDraft =>
  at === null || at === undefined ? NONE : { kind: "own", text: localText(at, zone) };

/** Assigns a draft: when, for whom, after what; with what it will do before it is done. */
export function AssignForm({ view }: { readonly view: AssignView }) {
  const isAgain = view.quizId !== null;
  const [window, setWindow] = useState<WindowDraft>(() => ({
    opens: plannedAt(view.planned?.opens, view.zone),
    due: plannedAt(view.planned?.due, view.zone),
    closes: plannedAt(view.planned?.closes, view.zone),
  }));
  const [onlyFor, setOnlyFor] = useState<ReadonlySet<string> | null>(null);
  const [first, setFirst] = useState(view.first?.quizId ?? "");
  const [atLeast, setAtLeast] = useState(view.first?.atLeast ?? "");
  const [reason, setReason] = useState("");
  const [refused, setRefused] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [done, setDone] = useState<AssignEffect | null>(null);

  const instant = (draft: MomentDraft): number | null =>
    draft.kind === "own" ? instantOfLocal(draft.text, view.zone) : null;
  const isUnfinished = (["opens", "due", "closes"] as const).some(
    (what) => window[what].kind === "own" && instant(window[what]) === null,
  );
  const body = useMemo(() => {
    const text = (draft: MomentDraft) => {
      const at = draft.kind === "own" ? instantOfLocal(draft.text, view.zone) : null;
      return at === null ? null : new Date(at).toISOString();
    };
    const after = {
      first: first === "" ? null : { quizId: first, atLeast: atLeast.trim() === "" ? null : atLeast.trim() },
    };
    return isAgain
      ? after
      : {
          opens: text(window.opens),
          due: text(window.due),
          closes: text(window.closes),
          onlyFor: onlyFor === null ? null : [...onlyFor],
          ...after,
        };
  }, [window, onlyFor, first, atLeast, isAgain, view.zone]);

  const isNobody = onlyFor !== null && onlyFor.size === 0;
  const { effect, problem } = useLookedOver<AssignEffect>(
    `/api/drafts/${view.draftId}/assign-effect`,
    isUnfinished || isNobody ? null : JSON.stringify(body),
    t("composer.composer-store.the-server-cannot-be-reached"),
  );

  const assign = async () => {
    if (!effect) return;
    setBusy(true);
    setRefused(null);
    try {
      const made = await ask<AssignEffect>(`/api/drafts/${view.draftId}/assign`, {
        body: { ...body, ...(isAgain ? { reason } : {}), expects: effect.expects },
      });
      setDone(made);
    } catch (error) {
      setRefused(refusalOr(error, t("composer.composer-store.the-server-cannot-be-reached")));
    }
    setBusy(false);
  };

  if (done) return <Assigned done={done} isAgain={isAgain} title={view.title} />;

  const labels = {
    opens: t("allowances.everyone-form.opens"),
    due: t("allowances.everyone-form.due"),
    closes: t("allowances.everyone-form.closes"),
  };
  const own = { opens: instant(window.opens), due: instant(window.due), closes: instant(window.closes) };
  const contradictions = isAgain
    ? (effect?.contradictions ?? [])
    : contradictionsOf(view.rules, { due: own.due, closes: own.closes });
  const mayAssign =
    effect !== null && contradictions.length === 0 && !isUnfinished && (!isAgain || reason.trim() !== "");
  return (
    <div className="mt-6 grid gap-x-12 gap-y-8 lg:grid-cols-[minmax(0,1fr)_24rem]" data-ready="true">
      <div className="grid content-start gap-7">
        {!isAgain && (
          <section className="grid gap-4">
            <h2 className="label">{t("composer.assign-form.when")}</h2>
            {(["opens", "due", "closes"] as const).map((what) => (
              <MomentField
                key={what}
                label={labels[what]}
                value={window[what]}
                mayBeNone
                onChange={(value) => setWindow({ ...window, [what]: value })}
              />
            ))}
            <p className="small -mt-2">
              {t("allowances.everyone-form.times-in", { zone: view.zone.replaceAll("_", " ") })}
            </p>
            <TermAxis view={view} own={own} />
          </section>
        )}
        {!isAgain && (
          <section className="grid gap-2">
            <fieldset className="grid gap-2">
              <legend className="label mb-1">{t("composer.assign-form.for-whom")}</legend>
              <label className="flex items-center gap-2.5">
                <input
                  type="radio"
                  name="takers"
                  className="size-[18px]"
                  checked={onlyFor === null}
                  onChange={() => setOnlyFor(null)}
                />
                {t("allowances.everyone-form.everyone-in-the-course")}
              </label>
              <label className="flex items-center gap-2.5">
                <input
                  type="radio"
                  name="takers"
                  className="size-[18px]"
                  checked={onlyFor !== null}
                  onChange={() => setOnlyFor(new Set())}
                />
                {t("composer.assign-form.sections-or-people")}
              </label>
            </fieldset>
            {onlyFor !== null && (
              <PeoplePicker
                students={view.students}
                sections={view.sections.map((each) => ({ ...each, members: [...each.members] }))}
                chosen={onlyFor}
                label={t("allowances.everyone-form.these-may")}
                onChange={setOnlyFor}
              />
            )}
          </section>
        )}
        <section className="flex flex-wrap items-start gap-4">
          <Choice
            label={t("composer.assign-form.what-comes-first")}
            value={first}
            options={[
              { value: "", words: t("composer.assign-form.nothing") },
              ...view.quizzes.map(({ id, title }) => ({ value: id, words: title })),
            ]}
            onChange={setFirst}
          />
          {first !== "" && (
            <PlainField
              className="w-56"
              label={t("composer.assign-form.at-least")}
              inputMode="decimal"
              placeholder={t("composer.assign-form.handed-in-is-enough")}
              maxLength={7}
              value={atLeast}
              onChange={setAtLeast}
            />
          )}
        </section>
        <section>
          <h2 className="label">{t("composer.assign-form.everything-else")}</h2>
          <p className="mt-1">
            <a className="inline-block py-1 underline" href={`/drafts/${view.draftId}`}>
              {t("composer.assign-form.is-in-the-rules")}
            </a>
          </p>
        </section>
      </div>
      <section aria-labelledby="what-it-does" className="sheet self-start p-6 lg:sticky lg:top-6">
        <h2 id="what-it-does" className="font-read text-xl font-medium">
          {t("composer.assign-form.what-it-does")}
        </h2>
        <div aria-live="polite" className="mt-3 grid gap-3">
          {contradictions.map((words) => (
            <p
              key={JSON.stringify(words)}
              className="border-l-[3px] border-plum bg-plum-2 px-3 py-2 text-plum"
            >
              {say(words)}
            </p>
          ))}
          {problem && (
            <p className="border-l-[3px] border-plum bg-plum-2 px-3 py-2 text-plum">
              {problem}{" "}
              <a className="underline" href={`/drafts/${view.draftId}`}>
                {t("composer.assign-form.put-it-right")}
              </a>
            </p>
          )}
          {effect === null && problem === null && (
            <p className="small">
              {isUnfinished
                ? t("allowances.times-draft.a-date-is-missing")
                : isNobody
                  ? t("allowances.times-draft.choose-someone")
                  : t("composer.assign-form.looking")}
            </p>
          )}
          {effect && <EffectWords effect={effect} isAgain={isAgain} />}
        </div>
        {isAgain && effect && (
          <label className="mt-4 grid gap-1.5">
            <span className="label">{t("composer.assign-form.why")}</span>
            <input
              className="field"
              value={reason}
              maxLength={500}
              onChange={({ target }) => setReason(target.value)}
            />
          </label>
        )}
        {refused && (
          <p role="alert" className="mt-4 border-l-[3px] border-plum bg-plum-2 px-3 py-2 text-plum">
            {refused}
          </p>
        )}
        <button
          type="button"
          className="button button-main mt-5"
          disabled={!mayAssign || busy}
          onClick={() => void assign()}
        >
          {busy
            ? t("ui.confirm.one-moment")
            : isAgain
              ? t("composer.assign-form.assign-the-changes")
              : t("composer.assign-form.assign-it")}
        </button>
      </section>
    </div>
  );
}

/** What assigning does, in sentences. */
function EffectWords({ effect, isAgain }: { readonly effect: AssignEffect; readonly isAgain: boolean }) {
  if (!isAgain) return <p>{t("composer.assign-form.is-set-for", { students: effect.students })}</p>;
  const marked = effect.questions.filter(({ change }) => change === "marked-otherwise");
  const words = {
    "marked-otherwise": t("composer.assign-form.marked-otherwise"),
    rewritten: t("composer.assign-form.rewritten"),
    added: t("composer.assign-form.added"),
    "taken-out": t("composer.assign-form.taken-out"),
  };
  return (
    <>
      <p>
        {effect.version === null
          ? t("composer.assign-form.no-question-changed")
          : t("composer.assign-form.becomes-version", { version: effect.version })}
      </p>
      {effect.version !== null && effect.handedIn + effect.running > 0 && (
        <p>
          {t("composer.assign-form.who-has-begun", { running: effect.running, handedIn: effect.handedIn })}
        </p>
      )}
      {effect.questions.length > 0 && (
        <ul className="border-t border-line">
          {effect.questions.map(({ id, text, change, attempts }) => (
            <li key={id} className="border-b border-line py-1.5">
              <span className="block font-read">{text === "" ? "…" : text}</span>
              <span className="small">
                {words[change]}
                {attempts > 0 && ` · ${t("composer.assign-form.in-attempts", { attempts })}`}
              </span>
            </li>
          ))}
        </ul>
      )}
      {marked.some(({ attempts }) => attempts > 0) && <p>{t("composer.assign-form.then-mark-again")}</p>}
    </>
  );
}

/** It was assigned: what follows from it. */
function Assigned({
  done,
  isAgain,
  title,
}: {
  readonly done: AssignEffect;
  readonly isAgain: boolean;
  readonly title: string;
}) {
  const toMark = done.questions.filter(
    ({ change, attempts }) => change === "marked-otherwise" && attempts > 0,
  );
  return (
    <section className="sheet mt-6 max-w-2xl p-6" data-ready="true">
      <div role="status">
        <h2 className="font-read text-xl font-medium">
          {isAgain
            ? t("composer.assign-form.changes-are-assigned", { title })
            : t("composer.assign-form.is-assigned", { title, students: done.students })}
        </h2>
      </div>
      {toMark.length > 0 && (
        <>
          <p className="mt-3">{t("composer.assign-form.these-can-be-marked-again")}</p>
          <ul className="mt-2 border-t border-line">
            {toMark.map(({ id, text, attempts }) => (
              <li key={id} className="border-b border-line">
                <a
                  className="block py-2"
                  href={`/quizzes/${done.quizId}/answers/${encodeURIComponent(id)}?as-now=1`}
                >
                  {t("composer.assign-form.mark-again", { text: text === "" ? id : text, attempts })}
                </a>
              </li>
            ))}
          </ul>
        </>
      )}
      <p className="mt-5 flex flex-wrap gap-3">
        <a className="button button-main" href={`/quizzes/${done.quizId}/staff`}>
          {t("composer.assign-form.to-the-quiz")}
        </a>
        <a className="button" href={`/quizzes/${done.quizId}`}>
          {t("composer.assign-form.as-students-read-it")}
        </a>
      </p>
    </section>
  );
}
