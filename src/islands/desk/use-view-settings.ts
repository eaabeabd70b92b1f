import { useEffect, useState } from "react";

export const TEXT_SIZES = ["normal", "large", "larger", "largest"] as const;
export type TextSize = (typeof TEXT_SIZES)[number];
export type ClockForm = "digits" | "minutes" | "hidden";

/** How the desk is looked at; a matter of the device, not of the attempt. */
export interface ViewSettings {
  readonly textSize: TextSize;
  readonly clock: ClockForm;
}

const KEY = "shizuka-desk-view";
const USUAL: ViewSettings = { textSize: "normal", clock: "digits" };

function kept(): ViewSettings {
  try {
    const { textSize, clock } = { ...USUAL, ...(JSON.parse(localStorage.getItem(KEY) ?? "{}") as object) };
    return {
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
