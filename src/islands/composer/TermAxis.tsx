import type { AssignView, QuizInTerm } from "@/core/draft/assign-view";
import type { Instant } from "@/core/time/instants";
import { DAY } from "@/core/time/instants";
import { t } from "@/words/t";
import { dayAndTime } from "@/words/times";

interface TermAxisProps {
  readonly view: AssignView;
  readonly own: {
    readonly opens: Instant | null;
    readonly due: Instant | null;
    readonly closes: Instant | null;
  };
}

/** What is further away than this is no part of the picture, in milliseconds. */
const REACH = 120 * DAY;

const ends = ({ due, closes }: Pick<QuizInTerm, "due" | "closes">): Instant | null => closes ?? due;

/** The windows of a course's quizzes on one axis, so that a new one is seen among them. */
export function TermAxis({ view, own }: TermAxisProps) {
  const { serverNow, zone } = view;
  const near = view.quizzes.filter((each) => {
    const [from, to] = [each.opens ?? serverNow, ends(each) ?? each.opens ?? serverNow];
    return to > serverNow - 30 * DAY && from < serverNow + REACH;
  });
  const all = [...near, { id: "own", title: view.title, ...own }];
  const moments = all.flatMap((each) => [each.opens, ends(each)]).filter((at) => at !== null);
  const least = Math.min(serverNow - 7 * DAY, ...moments.map((at) => Math.max(at, serverNow - 30 * DAY)));
  const most = Math.max(serverNow + 14 * DAY, ...moments.map((at) => Math.min(at, serverNow + REACH)));
  const share = (at: Instant) => Math.min(1, Math.max(0, (at - least) / (most - least)));
  return (
    <figure className="mt-1">
      <figcaption className="small">{t("composer.term-axis.all-windows")}</figcaption>
      <ol className="relative mt-1 grid gap-0.5 border-l border-line">
        <li
          aria-hidden="true"
          className="absolute inset-y-0 w-px bg-ember"
          style={{ left: `${share(serverNow) * 100}%` }}
        />
        {all.map((each) => {
          const from = share(each.opens ?? least);
          const to = share(ends(each) ?? most);
          const isOwn = each.id === "own";
          return (
            <li key={each.id} className="relative h-7">
              <span
                className={`absolute inset-y-1 min-w-1 rounded-xs ${isOwn ? "bg-indigo" : "bg-line-2"}`}
                style={{ left: `${from * 100}%`, width: `${Math.max(0.5, (to - from) * 100)}%` }}
                aria-hidden="true"
              />
              <span
                className={`absolute top-0.5 truncate text-[0.8125rem] ${isOwn ? "font-bold text-on-indigo" : ""}`}
                style={{
                  left: `calc(${Math.min(from, 0.7) * 100}% + 6px)`,
                  maxWidth: `${(1 - Math.min(from, 0.7)) * 100}%`,
                }}
              >
                {each.title}
                <span className="sr-only">
                  {" "}
                  {[
                    each.opens === null
                      ? ""
                      : t("composer.term-axis.opens", { at: dayAndTime(each.opens, zone) }),
                    ends(each) === null
                      ? ""
                      : t("composer.term-axis.ends", { at: dayAndTime(ends(each) ?? 0, zone) }),
                  ]
                    .filter(Boolean)
                    .join(t("joint.commas"))}
                </span>
              </span>
            </li>
          );
        })}
      </ol>
      <p className="small mt-1 flex justify-between">
        <span>{dayAndTime(least, zone)}</span>
        <span>{dayAndTime(most, zone)}</span>
      </p>
    </figure>
  );
}
