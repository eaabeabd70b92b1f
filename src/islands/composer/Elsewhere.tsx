import type { StandingPiece } from "@/core/draft/draft-view";
import type { DraftPiece } from "@/core/draft/pieces";
import { fieldsOf } from "@/core/kinds/fields";
import { marking } from "@/core/kinds/marking";
import { plainText } from "@/core/text/plain-text";
import { t } from "@/words/t";
import { asNumber } from "./QuestionWritten";

interface ElsewhereProps {
  readonly standing: StandingPiece;
  readonly mine: DraftPiece | undefined;
  readonly onChoose: (which: "this" | "theirs") => void;
}

/** What is written in a piece, in lines. */
function linesOf(piece: DraftPiece | undefined): string[] {
  const lines =
    piece?.piece === "question"
      ? [
          ...fieldsOf(piece.question, marking(piece.question.kind).fields, "rich"),
          ...fieldsOf(piece.question, marking(piece.question.kind).fields, "plain"),
          t("composer.question-written.marks", { marks: asNumber(piece.question.marks) }),
        ]
      : piece?.piece === "head"
        ? [piece.title, piece.brief ?? "", piece.reference ?? ""]
        : piece?.piece === "picture"
          ? [piece.picture.alt]
          : piece?.piece === "recording"
            ? [piece.recording.title, piece.recording.transcript]
            : [];
  return lines.map((line) => plainText(line).trim()).filter((line) => line !== "");
}

/** Another wrote here meanwhile: what they wrote stands on the server; what stands here is kept beside it. */
export function Elsewhere({ standing, mine, onChoose }: ElsewhereProps) {
  const theirs = linesOf(standing.piece);
  const own = new Set(linesOf(mine));
  const other = theirs.filter((line) => !own.has(line));
  return (
    <section role="alert" className="mb-5 border-l-[3px] border-plum bg-plum-2 px-4 py-3">
      <h3 className="font-bold">{t("composer.elsewhere.wrote-here", { author: standing.author })}</h3>
      <p className="mt-1">{t("composer.elsewhere.yours-stands-below")}</p>
      <ul className="mt-2 grid gap-1 border-l-2 border-line-2 pl-3">
        {(other.length > 0 ? other : [t("composer.elsewhere.only-how-it-is-marked")]).map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      <p className="mt-3 flex flex-wrap gap-3">
        <button type="button" className="button" onClick={() => onChoose("theirs")}>
          {t("composer.elsewhere.take-theirs", { author: standing.author })}
        </button>
        <button type="button" className="button" onClick={() => onChoose("this")}>
          {t("composer.elsewhere.let-mine-stand")}
        </button>
      </p>
    </section>
  );
}
