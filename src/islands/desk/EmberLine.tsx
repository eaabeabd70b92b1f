interface EmberLineProps {
  /** The share of the time that has burned down, 0 to 1. */
  readonly burned: number;
  /** The shares at which time warnings come. */
  readonly notches: readonly number[];
}

const percent = (share: number) => `${Math.round(Math.min(1, Math.max(0, share)) * 10_000) / 100}%`;

/** The thin line at the top edge that burns down with the clock. Only seen: the clock beside it says the same. */
export function EmberLine({ burned, notches }: EmberLineProps) {
  const left = 1 - burned;
  return (
    <svg className="block h-1.5 w-full shrink-0 overflow-visible" aria-hidden="true">
      <defs>
        <linearGradient id="ember">
          <stop offset="0" stopColor="var(--ember-3)" />
          <stop offset="0.6" stopColor="var(--ember-3)" />
          <stop offset="1" stopColor="var(--ember)" />
        </linearGradient>
      </defs>
      <rect width="100%" height="6" className="fill-sunk" />
      <rect width={percent(left)} height="6" fill="url(#ember)" />
      {notches.map((share) => (
        <rect key={share} x={percent(share)} width="2" height="6" className="fill-paper" />
      ))}
      <circle cx={percent(left)} cy="3" r="6" className="fill-ember-2" />
      <circle cx={percent(left)} cy="3" r="4.5" className="fill-ember" />
    </svg>
  );
}
