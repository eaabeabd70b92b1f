import { useEffect, useRef } from "react";

interface RoomKeyDeeds {
  /** Off while a dialog is open. */
  readonly isOn: boolean;
  /** Whether digits pick levels; else they begin a mark. */
  readonly hasRubric: boolean;
  readonly level: (place: number) => void;
  readonly row: (by: 1 | -1) => void;
  readonly next: () => void;
  readonly step: (by: 1 | -1) => void;
  readonly undo: () => void;
  readonly margin: () => void;
  readonly feedback: () => void;
  readonly marks: () => void;
  readonly keys: () => void;
  readonly save: () => void;
}

const isWriting = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    target instanceof HTMLTextAreaElement ||
    target instanceof HTMLSelectElement ||
    (target instanceof HTMLInputElement && target.type !== "radio" && target.type !== "checkbox"));

/** Marking by keys: single keys, wherever nothing is being typed; with Alt also within a field. */
export function useRoomKeys(deeds: RoomKeyDeeds): void {
  const now = useRef(deeds);
  now.current = deeds;
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const { current } = now;
      if (!current.isOn || event.defaultPrevented) return;
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "s") {
        event.preventDefault();
        current.save();
        return;
      }
      if (event.ctrlKey || event.metaKey || event.altKey || isWriting(event.target)) return;
      const deed = deedOf(event.key, current);
      if (!deed) return;
      event.preventDefault();
      deed();
    };
    document.addEventListener("keydown", press);
    return () => document.removeEventListener("keydown", press);
  }, []);
}

function deedOf(key: string, deeds: RoomKeyDeeds): (() => void) | null {
  if (/^[1-9]$/.test(key) && deeds.hasRubric) return () => deeds.level(Number(key));
  if (/^[0-9]$/.test(key) && !deeds.hasRubric) {
    return () => {
      deeds.marks();
      typeDigit(key);
    };
  }
  switch (key.toLowerCase()) {
    case "n":
      return deeds.next;
    case "j":
      return () => deeds.step(1);
    case "k":
      return () => deeds.step(-1);
    case "z":
      return deeds.undo;
    case "m":
      return deeds.margin;
    case "f":
      return deeds.feedback;
    case "?":
      return deeds.keys;
    case "arrowdown":
      return deeds.hasRubric ? () => deeds.row(1) : null;
    case "arrowup":
      return deeds.hasRubric ? () => deeds.row(-1) : null;
    default:
      return null;
  }
}

/** The digit that began a mark stands in its field. */
function typeDigit(digit: string): void {
  const field = document.activeElement;
  if (!(field instanceof HTMLInputElement) || field.dataset.marks === undefined) return;
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")?.set;
  set?.call(field, digit);
  field.dispatchEvent(new Event("input", { bubbles: true }));
}
