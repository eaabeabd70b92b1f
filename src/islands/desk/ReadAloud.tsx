import { Volume2, VolumeX } from "lucide-react";
import { useEffect, useState } from "react";
import { t } from "@/words/t";

interface ReadAloudProps {
  readonly slot: number;
  /** That of the question: what the interface says with it is short. */
  readonly language: string;
  readonly words: () => string;
}

/** Reads a question aloud with the browser's own speech; absent where the browser has none. */
export function ReadAloud({ slot, language, words }: ReadAloudProps) {
  const [can, setCan] = useState(false);
  const [reading, setReading] = useState(false);
  useEffect(() => {
    setCan("speechSynthesis" in window);
    return () => window.speechSynthesis?.cancel();
  }, []);
  if (!can) return null;
  const toggle = () => {
    speechSynthesis.cancel();
    if (reading) return setReading(false);
    const utterance = new SpeechSynthesisUtterance(words());
    utterance.lang = language;
    utterance.onend = () => setReading(false);
    utterance.onerror = () => setReading(false);
    setReading(true);
    speechSynthesis.speak(utterance);
  };
  const Icon = reading ? VolumeX : Volume2;
  return (
    <button type="button" className="button" aria-pressed={reading} onClick={toggle}>
      <Icon aria-hidden="true" className="size-4" />
      {reading ? t("desk.read-aloud.stop-reading") : t("desk.read-aloud.read-aloud")}
      <span className="sr-only"> {t("desk.read-aloud.question", { slot })}</span>
    </button>
  );
}
