import type { TriedPart } from "@/core/attempt/attempt-progress";
import { capitalized } from "@/core/text/capitalized";
import { say, t } from "@/words/t";

/** What checking has come to for one part, in a sentence beside its box. */
export function PartVerdict({ tried }: { readonly tried: TriedPart }) {
  const { right, wrong, left, words, closed, incomplete, worth } = tried;
  if (incomplete !== null) {
    return (
      <span className="text-ochre">
        {t("kinds.part-verdict.not-checked-and-no-try-used", { incomplete })}
      </span>
    );
  }
  if (!closed && wrong === 0) return null;
  const next = closed
    ? ""
    : t("kinds.part-verdict.try-is-next-can-still-be", { wrong: wrong + 1, worthWords: worthWords(worth) });
  return (
    <span className={right ? "text-moss" : "text-plum"}>
      {t("kinds.part-verdict.sentence", { words: capitalized(say(words)) })}
      {next}
      {left > 0 && closed ? t("kinds.part-verdict.other-left", { left }) : ""}
    </span>
  );
}

const worthWords = (worth: string): string =>
  worth === "1"
    ? t("kinds.part-verdict.all-of-its-marks")
    : worth === "0"
      ? t("kinds.part-verdict.none-of-its-marks")
      : t("kinds.part-verdict.of-its-marks", { worth });
