import type { ReactNode } from "react";
import { type Said, said } from "@/core/said";
import { say, t } from "@/words/t";
import { type ClockForm, TEXT_SIZES, type TextSize, type ViewSettings } from "./use-view-settings";

interface ViewChoicesProps {
  readonly settings: ViewSettings;
  readonly onChange: (change: Partial<ViewSettings>) => void;
}

const SIZE_WORDS: { readonly [S in TextSize]: Said } = {
  normal: said("desk.view-choices.as-it-is"),
  large: said("desk.view-choices.a-little-larger"),
  larger: said("desk.view-choices.larger"),
  largest: said("desk.view-choices.much-larger"),
};
const CLOCK_FORMS: readonly (readonly [ClockForm, Said])[] = [
  ["digits", said("desk.view-choices.minutes-and-seconds")],
  ["minutes", said("desk.view-choices.minutes-only-seconds-near-the-end")],
  ["hidden", said("desk.view-choices.no-digits")],
];

/** How the desk is looked at on this device: the size of its text, the form of its clock, its keys. */
export function ViewChoices({ settings, onChange }: ViewChoicesProps) {
  return (
    <div className="grid gap-4">
      <Menu
        title={t("desk.view-choices.text-size")}
        value={settings.textSize}
        options={TEXT_SIZES.map((size) => [size, say(SIZE_WORDS[size])])}
        onChoose={(textSize) => onChange({ textSize })}
      />
      <Menu
        title={t("desk.view-choices.clock")}
        value={settings.clock}
        options={CLOCK_FORMS.map(([form, words]) => [form, say(words)])}
        onChoose={(clock) => onChange({ clock })}
      />
      <div className="grid">
        <Switch on={settings.timeUsed} onChange={(timeUsed) => onChange({ timeUsed })}>
          {t("desk.view-choices.show-the-time-used-too")}
        </Switch>
        <Switch on={settings.letterKeys} onChange={(letterKeys) => onChange({ letterKeys })}>
          {t("desk.view-choices.single-letters-and-digits-work-as")}
        </Switch>
        <Switch on={settings.pictureWords} onChange={(pictureWords) => onChange({ pictureWords })}>
          {t("desk.view-choices.describe-pictures-in-words")}
        </Switch>
        <Switch on={settings.menus} onChange={(menus) => onChange({ menus })}>
          {t("desk.view-choices.match-by-menus")}
        </Switch>
      </div>
      <p className="small">{t("desk.view-choices.each-choice-holds-at-once-and")}</p>
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
