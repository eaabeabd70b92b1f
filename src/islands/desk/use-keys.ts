import { useEffect } from "react";
import { pageOf } from "./desk-state";
import type { DeskStore } from "./desk-store";
import type { KeysHere } from "./keys";

const isWriting = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    target instanceof HTMLTextAreaElement ||
    target instanceof HTMLSelectElement ||
    (target instanceof HTMLInputElement && target.type !== "radio" && target.type !== "checkbox"));

/** 1 to 9, or A to I, as the place of an option; null for any other key. */
function optionPlace(key: string): number | null {
  if (/^[1-9]$/.test(key)) return Number(key);
  return /^[a-i]$/i.test(key) ? key.toLowerCase().charCodeAt(0) - 96 : null;
}

/**
 * The question that keys work in: the one that has the focus. With the focus on nothing it is the one on the page, where
 * there is no other.
 */
function focusedSheet(): HTMLElement | null {
  const { activeElement } = document;
  if (activeElement && activeElement !== document.body) {
    return activeElement.closest<HTMLElement>("section[data-slot]");
  }
  const sheets = document.querySelectorAll<HTMLElement>("section[data-slot]");
  return sheets.length === 1 ? (sheets[0] ?? null) : null;
}

/** Whether someone can see what a key would change: it is on the screen, and not behind the head or the foot. */
function isSeen(element: HTMLElement): boolean {
  const { left, top, width, height } = element.getBoundingClientRect();
  const at = document.elementFromPoint(left + width / 2, top + height / 2);
  const row = element.closest("[data-option]") ?? element;
  return at !== null && row.contains(at);
}

/** What keys can do in the question that has the focus. */
export function keysOf(store: DeskStore): KeysHere {
  const sheet = focusedSheet();
  const type = sheet?.querySelector("[data-pick]")?.getAttribute("type");
  return {
    options: type === "radio" ? "one" : type === "checkbox" ? "several" : null,
    rulesOut: (sheet?.querySelector("[data-rule-out]") ?? null) !== null,
    ribbons: store.view.ribbons && store.screen.state().look === "question",
    turns: store.view.order.pages.length > 1 || store.screen.state().slots.length > 1,
  };
}

/** Picks by key, or rules out: only what is seen. What is not is shown first, and nothing is changed. */
function press(store: DeskStore, place: number, rulesOut: boolean): void {
  const sheet = focusedSheet();
  const slot = Number(sheet?.dataset.slot);
  const option = sheet?.querySelector<HTMLElement>(`[data-${rulesOut ? "rule-out" : "pick"}="${place}"]`);
  if (!option || option.matches(":disabled")) return;
  if (!isSeen(option)) {
    option.scrollIntoView({ block: "center" });
    return;
  }
  const letter = String.fromCharCode(64 + place);
  if (rulesOut) option.click();
  else store.answers.byKey(slot, letter, () => option.click());
}

/**
 * The keys of the desk: never inside a text field, and never with a dialog open. Single letters can be switched off; what
 * they change is said with a way back.
 */
export function useKeys(store: DeskStore, letters: boolean, onShowKeys: () => void): void {
  useEffect(() => {
    let rulesOut = false;
    const onKey = (event: KeyboardEvent) => {
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "s") {
        event.preventDefault();
        void store.saving.asked();
        return;
      }
      const { look, here } = store.screen.state();
      if (event.ctrlKey || event.metaKey || event.altKey || isWriting(event.target)) return;
      // A half-finished word of an input method, and a key that is held down, ask for nothing.
      if (event.isComposing || event.repeat || !letters) return;
      if (document.querySelector('[role="alertdialog"], [role="dialog"]')) return;
      if (event.key === "?") return onShowKeys();
      if (look !== "question") return;
      const key = event.key.toLowerCase();
      const before = rulesOut;
      rulesOut = false;
      if (key === "j") store.turning.go(nextPlace(store, here, 1));
      else if (key === "k") store.turning.go(nextPlace(store, here, -1));
      else if (key === "r") {
        const slot = Number(focusedSheet()?.dataset.slot);
        if (slot && store.view.ribbons) store.answers.layRibbon(slot);
      } else if (key === "x") rulesOut = true;
      else {
        const place = optionPlace(event.key);
        if (place !== null) press(store, place, before);
      }
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, [store, letters, onShowKeys]);
}

/** The question after or before the one that is here; one way, nothing leads back. */
function nextPlace(store: DeskStore, here: number, by: 1 | -1): number {
  const { order } = store.view;
  const to = here + by;
  return order.rule === "one-way" && pageOf(order, to) < store.screen.state().page ? here : to;
}
