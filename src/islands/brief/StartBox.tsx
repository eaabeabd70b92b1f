import { useEffect, useState } from "react";
import { MINUTE } from "@/core/time/instants";
import { Confirm } from "@/ui/Confirm";
import { ask } from "@/ui/requests";
import { t } from "@/words/t";
import { dayAndTime, dayOnly, lengthInWords, nearDay, timeOfDay } from "@/words/times";

interface StartBoxProps {
  readonly quizId: string;
  readonly title: string;
  readonly course: string;
  /** The running attempt, or null. */
  readonly resume: string | null;
  readonly number: number;
  readonly allowed: number | null;
  readonly now: number;
  readonly ends: number | null;
  readonly allowedTime: number | null;
  readonly opens: number | null;
  readonly due: number | null;
  readonly closes: number | null;
  readonly zone: string;
  /** What starting now would cost, where the due time is over; null where it is not. */
  readonly lateStart: string | null;
}

/** So long starting may take before it is said that it does; and so long before it is said what to do. In ms. */
const SLOW = 3_000;
const VERY_SLOW = 12_000;

/** On a small screen the button stays in reach at the foot of the page. */
const AT_FOOT = "max-lg:fixed max-lg:inset-x-4 max-lg:bottom-3 max-lg:z-10 max-lg:w-auto max-lg:shadow-lg";

/** The one button that starts a clock, with what it means drawn against the window. */
export function StartBox(props: StartBoxProps) {
  const { resume, number, allowed, ends, allowedTime, zone } = props;
  const [asking, setAsking] = useState(false);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [ready, setReady] = useState(false);
  const slow = useSlow(busy);
  const now = useServerNow(props.now);
  useEffect(() => setReady(true), []);

  if (resume !== null) {
    return (
      <div className="sheet p-6">
        <h2 className="font-read text-xl font-medium">{t("brief.start-box.this-attempt-is-running")}</h2>
        <p className="mt-2 text-ink-2">
          {t("brief.start-box.everything-you-wrote-is-kept", {
            part: allowedTime === null ? "" : t("brief.start-box.the-clock-runs-on"),
          })}
        </p>
        <a
          className={`button button-main mt-5 min-h-12 w-full text-base ${AT_FOOT}`}
          href={`/attempts/${resume}`}
        >
          {t("brief.start-box.go-back-in")}
        </a>
      </div>
    );
  }

  const endsNow = ends === null ? null : endFrom(props, now);
  const start = async () => {
    setBusy(true);
    setProblem(null);
    try {
      const { attemptId } = await ask<{ attemptId: string }>(`/api/quizzes/${props.quizId}/attempts`, {
        body: {},
      });
      location.assign(`/attempts/${attemptId}`);
    } catch (error) {
      setProblem(
        error instanceof TypeError || (error instanceof DOMException && error.name === "TimeoutError")
          ? t("brief.start-box.the-server-cannot-be-reached-just")
          : (error as Error).message,
      );
      setBusy(false);
    }
  };
  const attemptWords =
    allowed === null
      ? t("brief.start-box.attempt", { number })
      : t("brief.start-box.attempt-of", { number, allowed });

  return (
    <div className="sheet p-6">
      <h2 className="font-read text-[1.375rem] leading-snug font-medium">
        {endsNow === null
          ? t("brief.start-box.start-whenever-you-like-no-clock")
          : allowedTime === null
            ? t("brief.start-box.no-time-limit-it-closes", { endWords: endWords(endsNow, now, zone) })
            : t("brief.start-box.start-now-and-your-time-ends", { endWords: endWords(endsNow, now, zone) })}
      </h2>
      {props.lateStart && (
        <p className="mt-3 border-l-[3px] border-ochre bg-ochre-2 px-3 py-2 text-ochre">{props.lateStart}</p>
      )}
      {endsNow !== null && allowedTime !== null && <TimeDrawing {...props} now={now} ends={endsNow} />}
      <button
        type="button"
        className={`button button-main mt-6 min-h-12 w-full text-base ${AT_FOOT}`}
        disabled={!ready}
        onClick={() => {
          setProblem(null);
          setAsking(true);
        }}
      >
        {t("brief.start-box.start-now")}
      </button>
      <noscript>
        <p className="mt-3 text-plum">{t("brief.start-box.taking-a-quiz-needs-javascript-switch")}</p>
      </noscript>
      <p className="small mt-2.5">
        {t("brief.start-box.reading-this-page-uses-nothing-up", { attemptWords })}
      </p>
      <Confirm
        open={asking}
        onOpenChange={setAsking}
        title={t("brief.start-box.start", { title: props.title })}
        yes={t("brief.start-box.start-the-attempt")}
        no={t("brief.start-box.not-yet")}
        busy={busy}
        problem={problem}
        onYes={start}
      >
        <p>{t("brief.start-box.which", { course: props.course, attempt: attemptWords })}</p>
        <p>
          {endsNow === null
            ? t("brief.start-box.there-is-no-time-limit-hand")
            : allowedTime === null
              ? t("brief.start-box.there-is-no-time-limit-it", { endWords: endWords(endsNow, now, zone) })
              : t("brief.start-box.and-your-time-ends-the-clock", {
                  lengthOf: lengthOf(allowedTime),
                  endWords: endWords(endsNow, now, zone),
                })}
        </p>
        {props.lateStart && <p className="font-bold text-ochre">{props.lateStart}</p>}
        {slow !== null && (
          <p role="status" className="text-ink-2">
            {slow === "very"
              ? t("brief.start-box.still-no-answer-if-nothing-happens")
              : t("brief.start-box.starting-it-takes-longer-than-usual")}
          </p>
        )}
      </Confirm>
    </div>
  );
}

const lengthOf = (length: number) =>
  length % MINUTE === 0
    ? t("brief.start-box.you-have-other", { length: length / MINUTE })
    : t("brief.start-box.you-have", { length: lengthInWords(length) });

/** "at 14:32" today, "tomorrow 09:00" or "Wed 25 Nov, 23:59" later. */
function endWords(ends: number, now: number, zone: string): string {
  return dayOnly(ends, zone) === dayOnly(now, zone)
    ? t("brief.start-box.at", { time: timeOfDay(ends, zone) })
    : nearDay(ends, now, zone);
}

/** The end moves on with the present moment while the page is open, but not beyond where the window cut it. */
function endFrom({ now: madeAt, ends, allowedTime, closes }: StartBoxProps, now: number): number {
  if (ends === null) return now;
  if (allowedTime === null) return ends;
  const moved = ends + Math.max(0, now - madeAt);
  return closes !== null && ends <= closes ? Math.min(moved, closes) : moved;
}

/** How long something has been under way: null while that is nothing to speak of. */
function useSlow(busy: boolean): "slow" | "very" | null {
  const [slow, setSlow] = useState<"slow" | "very" | null>(null);
  useEffect(() => {
    setSlow(null);
    if (!busy) return;
    const timers = [setTimeout(() => setSlow("slow"), SLOW), setTimeout(() => setSlow("very"), VERY_SLOW)];
    return () => timers.forEach(clearTimeout);
  }, [busy]);
  return slow;
}

/** The server's time, moving on from what the page was made with; renewed every few seconds. */
function useServerNow(madeAt: number): number {
  const [now, setNow] = useState(madeAt);
  useEffect(() => {
    const loaded = performance.now();
    const timer = setInterval(() => setNow(madeAt + performance.now() - loaded), 5_000);
    return () => clearInterval(timer);
  }, [madeAt]);
  return now;
}

/** From now to the due time, with the time allowed lit in ember. */
function TimeDrawing({
  now,
  ends,
  due,
  closes,
  allowedTime,
  zone,
}: StartBoxProps & { readonly ends: number }) {
  const limit = due !== null && due > now ? due : closes;
  const to = limit === null ? ends + (ends - now) : Math.max(limit, ends);
  // A short time against a long window would be too thin to see: it takes at least a third of the line.
  const share = to > now ? Math.min(1, Math.max((ends - now) / (to - now), 0.34)) : 1;
  return (
    <div className="mt-5" aria-hidden="true">
      <div className="flex justify-between text-xs">
        <span className="font-bold text-ember">
          {t("brief.start-box.now", { now: timeOfDay(now, zone) })}
        </span>
      </div>
      <svg className="mt-1.5 block h-2 w-full" role="presentation">
        <defs>
          <linearGradient id="burn">
            <stop offset="0" stopColor="var(--ember-3)" />
            <stop offset="1" stopColor="var(--ember)" />
          </linearGradient>
        </defs>
        <rect width="100%" height="8" rx="1" className="fill-sunk" />
        <rect width={`${share * 100}%`} height="8" rx="1" fill="url(#burn)" />
      </svg>
      <div className="mt-1.5 flex justify-between gap-3 text-xs">
        <span className="text-ink-2">{lengthInWords(allowedTime ?? ends - now)}</span>
        {limit !== null && (
          <span className="text-ink-2">
            {t(limit === due ? "brief.start-box.due" : "brief.start-box.closes", {
              when: dayAndTime(limit, zone),
            })}
          </span>
        )}
      </div>
    </div>
  );
}
