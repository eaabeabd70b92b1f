import { useState } from "react";
import { type Break, firstDay, movedWindows, type PlannedWindow } from "@/core/course/moved-windows";
import type { Instant } from "@/core/time/instants";
import { Listening } from "@/ui/Listening";
import { ask, refusalOr } from "@/ui/requests";
import { t } from "@/words/t";
import { dateWithYear, timeOfDay } from "@/words/times";

interface CopiedQuiz extends PlannedWindow {
  readonly id: string;
  readonly title: string;
}

interface CopyFormProps {
  readonly slug: string;
  readonly sources: readonly {
    readonly slug: string;
    readonly title: string;
    readonly quizzes: readonly CopiedQuiz[];
  }[];
  readonly zone: string;
}

const EMPTY: Break = { from: "", to: "" };
const isDay = (text: string): boolean => /^\d{4}-\d{2}-\d{2}$/.test(text);

/** Copies quizzes of a course as drafts, all their dates moved together, breaks left out. */
export function CopyForm({ slug, sources, zone }: CopyFormProps) {
  const [from, setFrom] = useState(sources[0]?.slug ?? "");
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [withDates, setWithDates] = useState(true);
  const [first, setFirst] = useState("");
  const [breaks, setBreaks] = useState<readonly Break[]>([]);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const source = sources.find((each) => each.slug === from);
  const chosen = (source?.quizzes ?? []).filter(({ id }) => !left.has(id));
  const began = firstDay(chosen, zone);
  const isMoved = withDates && began !== null && isDay(first);
  const isUnfinished =
    withDates && breaks.some((each) => !isDay(each.from) || !isDay(each.to) || each.to < each.from);
  const moved = isMoved && !isUnfinished ? movedWindows(chosen, first, breaks, zone) : null;
  const mayCopy = chosen.length > 0 && !isUnfinished && (!withDates || began === null || isMoved);
  const setBreak = (place: number, change: Partial<Break>) =>
    setBreaks(breaks.map((each, i) => (i === place ? { ...each, ...change } : each)));
  const copy = async () => {
    setBusy(true);
    setProblem(null);
    try {
      const body = {
        quizzes: chosen.map(({ id }) => id),
        first: isMoved ? first : null,
        breaks: isMoved ? breaks : [],
      };
      await ask(`/api/courses/${slug}/copy`, { body, limit: 120_000 });
      location.assign(`/courses/${slug}/writing`);
    } catch (error) {
      setProblem(refusalOr(error, t("composer.composer-store.the-server-cannot-be-reached")));
      setBusy(false);
    }
  };
  const time = (at: Instant | null) =>
    at === null
      ? t("composer.copy-form.none")
      : [dateWithYear(at, zone), timeOfDay(at, zone)].join(t("joint.commas"));
  return (
    <Listening className="mt-6 grid gap-7">
      <label className="grid max-w-md gap-1.5">
        <span className="label">{t("composer.copy-form.from")}</span>
        <select
          className="field"
          value={from}
          onChange={({ target }) => {
            setFrom(target.value);
            setLeft(new Set());
          }}
        >
          {sources.map((each) => (
            <option key={each.slug} value={each.slug}>
              {each.title}
            </option>
          ))}
        </select>
      </label>
      <fieldset className="grid gap-3">
        <legend className="label mb-1">{t("composer.copy-form.dates")}</legend>
        <label className="flex items-center gap-3">
          <input
            type="checkbox"
            className="size-[1.125rem] accent-indigo"
            checked={withDates}
            onChange={({ target }) => setWithDates(target.checked)}
          />
          {t("composer.copy-form.move-together")}
        </label>
        {withDates && began !== null && (
          <>
            <label className="flex flex-wrap items-center gap-3">
              {t("composer.copy-form.first-on", {
                day: dateWithYear(Date.parse(`${began}T12:00:00Z`), "UTC"),
              })}
              <input
                type="date"
                className="field w-48"
                value={first}
                onChange={({ target }) => setFirst(target.value)}
              />
            </label>
            {breaks.map((each, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: breaks have no name but their place
              <p key={i} className="flex flex-wrap items-center gap-3">
                <label className="flex items-center gap-2">
                  {t("composer.copy-form.break-from", { nth: i + 1 })}
                  <input
                    type="date"
                    className="field w-48"
                    value={each.from}
                    onChange={({ target }) => setBreak(i, { from: target.value })}
                  />
                </label>
                <label className="flex items-center gap-2">
                  {t("composer.copy-form.break-to", { nth: i + 1 })}
                  <input
                    type="date"
                    className="field w-48"
                    value={each.to}
                    aria-invalid={isDay(each.from) && isDay(each.to) && each.to < each.from}
                    onChange={({ target }) => setBreak(i, { to: target.value })}
                  />
                </label>
                <button
                  type="button"
                  className="min-h-6 text-sm underline"
                  onClick={() => setBreaks(breaks.filter((_, place) => place !== i))}
                >
                  {t("composer.copy-form.no-break", { nth: i + 1 })}
                </button>
              </p>
            ))}
            {breaks.length < 20 && (
              <p>
                <button type="button" className="button" onClick={() => setBreaks([...breaks, EMPTY])}>
                  {t("composer.copy-form.add-a-break")}
                </button>
              </p>
            )}
            <p className="small">{t("composer.copy-form.how-breaks")}</p>
          </>
        )}
      </fieldset>
      <div className="overflow-x-auto">
        <table className="w-full min-w-[44rem] text-left">
          <caption className="label mb-1 text-left">{t("composer.copy-form.what-is-copied")}</caption>
          <thead>
            <tr className="small border-b border-ink">
              <th scope="col" className="py-1 pr-4 font-normal">
                {t("composer.copy-form.quiz")}
              </th>
              <th scope="col" className="py-1 pr-4 font-normal">
                {t("composer.copy-form.opens")}
              </th>
              <th scope="col" className="py-1 pr-4 font-normal">
                {t("composer.copy-form.due")}
              </th>
              <th scope="col" className="py-1 font-normal">
                {t("composer.copy-form.closes")}
              </th>
            </tr>
          </thead>
          <tbody>
            {(source?.quizzes ?? []).map((each) => {
              const place = chosen.indexOf(each);
              const now = place === -1 ? undefined : moved?.[place];
              return (
                <tr key={each.id} className="border-b border-line align-top">
                  <th scope="row" className="py-2 pr-4 font-normal">
                    <label className="flex items-start gap-3">
                      <input
                        type="checkbox"
                        className="mt-1 size-[1.125rem] shrink-0 accent-indigo"
                        checked={!left.has(each.id)}
                        onChange={({ target }) => {
                          const next = new Set(left);
                          if (target.checked) next.delete(each.id);
                          else next.add(each.id);
                          setLeft(next);
                        }}
                      />
                      {each.title}
                    </label>
                  </th>
                  {(["opens", "due", "closes"] as const).map((what) => (
                    <td key={what} className="py-2 pr-4 text-[0.9375rem]">
                      {now ? time(now[what]) : <span className="text-ink-2">{time(each[what])}</span>}
                    </td>
                  ))}
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      {problem && (
        <p role="alert" className="border-l-[3px] border-plum bg-plum-2 px-3 py-2 text-plum">
          {problem}
        </p>
      )}
      <p>
        <button
          type="button"
          className="button button-main"
          disabled={busy || !mayCopy}
          onClick={() => void copy()}
        >
          {busy ? t("ui.confirm.one-moment") : t("composer.copy-form.copy", { count: chosen.length })}
        </button>{" "}
        <span className="small">{t("composer.copy-form.nobody-sees-them")}</span>
      </p>
    </Listening>
  );
}
