import type { ReactNode } from "react";
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

/** How the desk is looked at on this device: the size of its text, the form of its clock, its keys. */
export function ViewChoices({ settings, onChange }: ViewChoicesProps) {
  return (
    <div className="grid gap-4">
      <Menu
        title="Text size"
        value={settings.textSize}
        options={TEXT_SIZES.map((size) => [size, SIZE_WORDS[size]])}
        onChoose={(textSize) => onChange({ textSize })}
      />
      <Menu
        title="Clock"
        value={settings.clock}
        options={CLOCK_FORMS}
        onChoose={(clock) => onChange({ clock })}
      />
      <div className="grid">
        <Switch on={settings.timeUsed} onChange={(timeUsed) => onChange({ timeUsed })}>
          Show the time used, too
        </Switch>
        <Switch on={settings.letterKeys} onChange={(letterKeys) => onChange({ letterKeys })}>
          Single letters and digits work as keys
        </Switch>
        <Switch on={settings.pictureWords} onChange={(pictureWords) => onChange({ pictureWords })}>
          Describe pictures in words
        </Switch>
        <Switch on={settings.menus} onChange={(menus) => onChange({ menus })}>
          Match by menus
        </Switch>
      </div>
      <p className="small">
        Each choice holds at once, and is kept on this device. Notices of time come whatever the clock shows.
      </p>
    </div>
  );
}

interface MenuProps<T extends string> {
  readonly title: string;
  readonly value: T;
  readonly options: readonly (readonly [T, string])[];
  readonly onChoose: (value: T) => void;
}

function Menu<T extends string>({ title, value, options, onChoose }: MenuProps<T>) {
  return (
    <label className="grid gap-1">
      <span className="small font-bold">{title}</span>
      <select className="field" value={value} onChange={(event) => onChoose(event.target.value as T)}>
        {options.map(([option, words]) => (
          <option key={option} value={option}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}

interface SwitchProps {
  readonly on: boolean;
  readonly children: ReactNode;
  readonly onChange: (on: boolean) => void;
}

function Switch({ on, children, onChange }: SwitchProps) {
  return (
    <label className="flex min-h-9 items-center gap-2.5 border-b border-line">
      <input
        type="checkbox"
        className="size-4 shrink-0 accent-indigo"
        checked={on}
        onChange={(event) => onChange(event.target.checked)}
      />
      {children}
    </label>
  );
}
