import { useEffect, useState } from "react";

/** The colours of the theme that is on, as a canvas needs them. */
function themeColours() {
  const style = getComputedStyle(document.documentElement);
  const of = (name: string) => style.getPropertyValue(name).trim();
  return {
    paper: of("--paper"),
    ink: of("--ink-2"),
    line: of("--line"),
    mark: of("--indigo"),
    faint: of("--line-2"),
    plum: of("--plum"),
    refused: of("--plum-2"),
  };
}

/** The same, following the theme when it changes. */
export function useThemeColours() {
  const [colours, setColours] = useState(themeColours);
  useEffect(() => {
    const night = matchMedia("(prefers-color-scheme: dark)");
    const change = () => setColours(themeColours());
    night.addEventListener("change", change);
    const chosen = new MutationObserver(change);
    chosen.observe(document.documentElement, { attributeFilter: ["data-theme"] });
    return () => {
      night.removeEventListener("change", change);
      chosen.disconnect();
    };
  }, []);
  return colours;
}
