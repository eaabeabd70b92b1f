import type { TriedPart } from "@/core/attempt/standing";
import { counted } from "@/core/time/words";

/** What checking has come to for one part, in a sentence beside its box. */
export function PartVerdict({ tried }: { readonly tried: TriedPart }) {
  const { right, wrong, left, words, closed, incomplete, worth } = tried;
  if (incomplete !== null) {
    return <span className="text-ochre">Not checked, and no try used: {incomplete}</span>;
  }
  if (!closed && wrong === 0) return null;
  const next = closed ? "" : ` Try ${wrong + 1} is next; ${worthWords(worth)} can still be earned.`;
  return (
    <span className={right ? "text-moss" : "text-plum"}>
      {words.charAt(0).toUpperCase()}
      {words.slice(1)}.{next}
      {left > 0 && closed ? ` ${counted(left, "try", "tries")} left.` : ""}
    </span>
  );
}

const worthWords = (worth: string): string =>
  worth === "1" ? "all of its marks" : worth === "0" ? "none of its marks" : `${worth} of its marks`;
