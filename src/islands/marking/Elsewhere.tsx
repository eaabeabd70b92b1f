import type { AnswerView, StandingWork } from "@/core/desk/room-view";
import type { HandWork } from "@/core/marking/hand-work";
import { say, t } from "@/words/t";
import { timeWithSeconds } from "@/words/times";
import { markingOf } from "./marking-of";

interface ElsewhereProps {
  readonly standing: StandingWork;
  readonly answer: AnswerView;
  readonly zone: string;
  readonly onChoose: (which: "this" | "theirs") => void;
}

/** What a marker wrote, in lines. */
function linesOf(answer: AnswerView, work: HandWork): string[] {
  const now = markingOf(answer, work);
  const criteria = (answer.rubric?.criteria ?? []).flatMap(({ id, title, levels }) => {
    const decided = work.criteria[id];
    const level = levels.find((each) => each.id === decided?.level)?.title ?? decided?.points;
    return level ? [`${title}: ${level}`] : [];
  });
  return [
    now.ok ? (now.figure === null ? "" : `${now.figure} / ${answer.maximum}`) : say(now.problem),
    ...(work.marks === null ? criteria : []),
    ...work.notes.map(({ text }) => text),
    work.feedback,
  ].filter((line) => line.trim() !== "");
}

/** Another wrote to this answer meanwhile: what they wrote stands on the server; what stands here is kept beside it. */
export function Elsewhere({ standing, answer, zone, onChoose }: ElsewhereProps) {
  const lines = linesOf(answer, standing.work);
  return (
    <section role="alert" className="mt-3 border-l-[3px] border-plum bg-plum-2 px-4 py-3">
      <h3 className="font-bold">
        {t("marking.elsewhere.wrote-here-at", {
          author: standing.author,
          at: timeWithSeconds(standing.writtenAt, zone),
        })}
      </h3>
      <p className="mt-1">{t("marking.elsewhere.yours-stands-below-nothing-is-lost")}</p>
      <ul className="mt-2 grid gap-1 border-l-2 border-line-2 pl-3">
        {lines.length === 0 ? (
          <li>{t("marking.elsewhere.nothing")}</li>
        ) : (
          // biome-ignore lint/suspicious/noArrayIndexKey: lines of one text
          lines.map((line, i) => <li key={i}>{line}</li>)
        )}
      </ul>
      <p className="mt-3 flex flex-wrap gap-3">
        <button type="button" className="button" onClick={() => onChoose("theirs")}>
          {t("marking.elsewhere.take-theirs", { author: standing.author })}
        </button>
        <button type="button" className="button" onClick={() => onChoose("this")}>
          {t("marking.elsewhere.let-mine-stand")}
        </button>
      </p>
    </section>
  );
}
