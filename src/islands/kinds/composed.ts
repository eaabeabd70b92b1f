import { type ChangeEvent, type CompositionEvent, useState } from "react";

type Field = HTMLInputElement | HTMLTextAreaElement;

/**
 * A text field into which words may come by an input method: what is still being composed stands in the field alone, and is
 * told of once it is chosen. So no half-finished word is saved, counted or marked.
 */
export function useComposed(text: string, onWrite: (text: string) => void) {
  const [composing, setComposing] = useState<string | null>(null);
  return {
    value: composing ?? text,
    onChange({ target, nativeEvent }: ChangeEvent<Field>) {
      if ("isComposing" in nativeEvent && nativeEvent.isComposing) setComposing(target.value);
      else {
        setComposing(null);
        onWrite(target.value);
      }
    },
    onCompositionEnd({ currentTarget }: CompositionEvent<Field>) {
      setComposing(null);
      if (currentTarget.value !== text) onWrite(currentTarget.value);
    },
  };
}
