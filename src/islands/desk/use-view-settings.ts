import { useEffect, useState } from "react";

export const TEXT_SIZES = ["normal", "large", "larger", "largest"] as const;
export type TextSize = (typeof TEXT_SIZES)[number];
export type ClockForm = "digits" | "minutes" | "hidden";

/** How the desk is looked at; a matter of the device, not of the attempt. */
export interface ViewSettings {
  readonly textSize: TextSize;
  readonly clock: ClockForm;
  /** Whether the time used is told beside the time left. */
  readonly timeUsed: boolean;
  /** Whether single letters and digits do something. */
  readonly letterKeys: boolean;
  /** Whether matching is done with menus also where there is room for more. */
  readonly menus: boolean;
  /** Whether what pictures show is also written below them. */
  readonly pictureWords: boolean;
}

const KEY = "shizuka-desk-view";
const USUAL: ViewSettings = {
  textSize: "normal",
  clock: "digits",
  timeUsed: false,
  letterKeys: true,
  menus: false,
  pictureWords: false,
};

function kept(): ViewSettings {
  try {
    const found = { ...USUAL, ...(JSON.parse(localStorage.getItem(KEY) ?? "{}") as object) };
    const { textSize, clock } = found;
    return {
      timeUsed: found.timeUsed === true,
      letterKeys: found.letterKeys !== false,
      menus: found.menus === true,
      pictureWords: found.pictureWords === true,
      textSize: TEXT_SIZES.includes(textSize) ? textSize : USUAL.textSize,
      clock: (["digits", "minutes", "hidden"] as const).includes(clock) ? clock : USUAL.clock,
    };
  } catch {
    return USUAL;
  }
}

/** The settings of this device, and how to change one; kept for the next time where the browser allows it. */
export function useViewSettings(): [ViewSettings, (change: Partial<ViewSettings>) => void] {
  const [settings, setSettings] = useState(USUAL);
  useEffect(() => setSettings(kept()), []);
  const change = (some: Partial<ViewSettings>) => {
    const next = { ...settings, ...some };
    setSettings(next);
    try {
      localStorage.setItem(KEY, JSON.stringify(next));
    } catch {
      // It holds for this page then.
    }
  };
  return [settings, change];
}
