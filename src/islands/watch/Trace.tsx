import { TRACE_PARTS } from "@/core/watch/watch-line";

const [WIDTH, HEIGHT] = [240, 26];
const AT = (part: number) => (part / TRACE_PARTS) * WIDTH;

interface TraceProps {
  /** Questions that got their first words, by part of the time. */
  readonly trace: readonly number[];
  readonly questions: number;
  /** How far its time has gone, 0 to 1. */
  readonly gone: number;
  /** Whether its writer has no desk open. */
  readonly away: boolean;
}

/** How the answers have come about over an attempt's time: a step up for each. Said in words beside it. */
export function Trace({ trace, questions, gone, away }: TraceProps) {
  const until = Math.min(TRACE_PARTS, Math.max(0, gone * TRACE_PARTS));
  let [sum, path] = [0, `M0 ${HEIGHT - 2}`];
  for (let part = 0; part < until; part += 1) {
    sum += trace[part] ?? 0;
    const y = HEIGHT - 2 - (Math.min(sum, questions) / Math.max(1, questions)) * (HEIGHT - 5);
    path += ["V", y.toFixed(1), "H", Math.min(AT(part + 1), gone * WIDTH).toFixed(1)].join("");
  }
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="h-[26px] w-full max-w-[15rem]"
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      <path
        d={`M0 ${HEIGHT - 1.5}H${WIDTH}`}
        className="stroke-line"
        fill="none"
        vectorEffect="non-scaling-stroke"
      />
      <path
        d={path}
        className={away ? "stroke-ink-2" : "stroke-indigo"}
        fill="none"
        strokeWidth={2}
        vectorEffect="non-scaling-stroke"
      />
      <path
        d={`M${(Math.min(1, gone) * WIDTH).toFixed(1)} 0V${HEIGHT}`}
        className="stroke-ember"
        fill="none"
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  );
}
