import { litPath } from "./moon-path";

interface FillingMoonProps {
  /** The share of the marks, 0 to 1; null: nothing is decided yet. */
  readonly share: number | null;
  readonly size?: number;
}

/** The moon of a mark that is being given: it fills as one goes; dotted while nothing is decided. */
export function FillingMoon({ share, size = 16 }: FillingMoonProps) {
  return (
    <svg width={size} height={size} viewBox="0 0 16 16" aria-hidden="true" className="shrink-0 text-indigo">
      {share === null ? (
        <circle
          cx="8"
          cy="8"
          r="7"
          fill="none"
          stroke="currentColor"
          strokeWidth="1.25"
          strokeDasharray="1.5 2.9"
        />
      ) : share >= 1 ? (
        <circle cx="8" cy="8" r="7.5" fill="currentColor" />
      ) : (
        <>
          <circle cx="8" cy="8" r="7" fill="none" stroke="currentColor" strokeWidth="1.5" />
          {share > 0 && <path d={litPath(share)} fill="currentColor" />}
        </>
      )}
    </svg>
  );
}
