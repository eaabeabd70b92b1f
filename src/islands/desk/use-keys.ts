import { useEffect } from "react";
import type { DeskStore } from "./desk-store";

const isWriting = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    target instanceof HTMLTextAreaElement ||
    target instanceof HTMLSelectElement ||
    (target instanceof HTMLInputElement && target.type !== "radio" && target.type !== "checkbox"));

/** 1 to 9, or A to I, as the place of an option; null for any other key. F folds, so the sixth option by letter is not F. */
function optionPlace(key: string): number | null {
  if (/^[1-9]$/.test(key)) return Number(key);
  return /^[a-eg-i]$/i.test(key) ? key.toLowerCase().charCodeAt(0) - 96 : null;
}

/** The keys of the desk. Never inside a text field, and never with a dialog open. */
export function useKeys(store: DeskStore, onShowKeys: () => void): void {
  useEffect(() => {
    let rulesOut = false;
    const press = (event: KeyboardEvent) => {
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "s") {
        event.preventDefault();
        void store.saveNow();
        return;
      }
      const { look, here } = store.state();
      if (event.ctrlKey || event.metaKey || event.altKey || isWriting(event.target)) return;
      if (document.querySelector('[role="alertdialog"], [role="dialog"]')) return;
      if (event.key === "?") return onShowKeys();
      if (look !== "question") return;
      const inRadios = event.target instanceof HTMLInputElement && event.target.type === "radio";
      const inTabs = event.target instanceof HTMLElement && event.target.role === "tab";
      const arrows = !inRadios && !inTabs;
      if (event.key.toLowerCase() === "j" || (arrows && event.key === "ArrowRight")) store.go(here + 1);
      else if (event.key.toLowerCase() === "k" || (arrows && event.key === "ArrowLeft")) store.go(here - 1);
      else if (event.key.toLowerCase() === "f" && store.view.fold) store.fold(here);
      else if (event.key.toLowerCase() === "x") {
        rulesOut = true;
        return;
      } else {
        const place = optionPlace(event.key);
        if (place === null) return;
        const wanted = rulesOut ? `[data-rule-out="${place}"]` : `[data-pick="${place}"]`;
        const sheet = document.getElementById(`question-${here}`)?.closest("section");
        sheet?.querySelector<HTMLElement>(wanted)?.click();
      }
      rulesOut = false;
    };
    addEventListener("keydown", press);
    return () => removeEventListener("keydown", press);
  }, [store, onShowKeys]);
}
