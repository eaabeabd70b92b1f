import { type ClockForm, TEXT_SIZES, type TextSize, type ViewSettings } from "./use-view-settings";

interface ViewChoicesProps {
  readonly settings: ViewSettings;
  readonly onChange: (change: Partial<ViewSettings>) => void;
}

const SIZE_WORDS: { readonly [S in TextSize]: string } = {
  normal: "as it is",
  large: "a little larger",
  larger: "larger",
  largest: "much larger",
};
const CLOCK_FORMS: readonly (readonly [ClockForm, string])[] = [
  ["digits", "minutes and seconds"],
  ["minutes", "minutes only, seconds near the end"],
  ["hidden", "no digits"],
];

/** How the desk is looked at on this device: the size of its text and the form of its clock. */
export function ViewChoices({ settings, onChange }: ViewChoicesProps) {
  return (
    <>
      <Choice
        title="Text size"
        name="text-size"
        value={settings.textSize}
        options={TEXT_SIZES.map((size) => [size, SIZE_WORDS[size]])}
        onChoose={(textSize) => onChange({ textSize })}
      />
      <Choice
        title="Clock"
        name="clock-form"
        value={settings.clock}
        options={CLOCK_FORMS}
        onChoose={(clock) => onChange({ clock })}
      />
      <p className="small">Notices come whatever the clock shows.</p>
    </>
  );
}

function Choice<T extends string>({
  title,
  name,
  value,
  options,
  onChoose,
}: {
  readonly title: string;
  readonly name: string;
  readonly value: T;
  readonly options: readonly (readonly [T, string])[];
  readonly onChoose: (value: T) => void;
}) {
  return (
    <fieldset>
      <legend className="small font-bold">{title}</legend>
      <div className="mt-1.5 border-t border-line">
        {options.map(([option, words]) => (
          <label key={option} className="flex min-h-9 items-center gap-2.5 border-b border-line">
            <input
              type="radio"
              name={name}
              className="size-4 accent-indigo"
              checked={value === option}
              onChange={() => onChoose(option)}
            />
            {words}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
