import { useEffect, useState } from "react";
import { createPortal } from "react-dom";
import { possibleStanding } from "@/core/gradebook/needed-marks";
import { type Category, courseStanding } from "@/core/gradebook/standing";
import { type WrittenCategory, withTyped } from "@/core/gradebook/what-if";
import { type Exact, shown } from "@/core/numbers/exact";
import { say, t } from "@/words/t";

interface WhatIfProps {
  /** What counts in the course, with exact numbers as text. */
  readonly categories: readonly WrittenCategory[];
  readonly missingCountsZero: boolean;
}

const percentage = (value: Exact | null) =>
  value === null ? t("gradebook.what-if.nothing-yet") : `${shown(value.mul(100))} %`;

/**
 * What if: marks typed into the rows of work that is still to come, and what the course would come to with them, worked out
 * here at once. Nothing of it is kept or sent.
 */
export function WhatIf({ categories, missingCountsZero }: WhatIfProps) {
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState<Readonly<Record<string, string>>>({});
  const [places, setPlaces] = useState<readonly HTMLElement[]>([]);
  useEffect(() => {
    setPlaces([...document.querySelectorAll<HTMLElement>("[data-what-if]")]);
  }, []);
  const { result, problems } = withTyped(categories, typed);
  const some = Object.values(typed).some((text) => text.trim() !== "");
  const close = () => {
    setTyped({});
    setOpen(false);
  };
  return (
    <section aria-label={t("gradebook.what-if.what-if")} className="print:hidden">
      {open ? (
        <div className="grid gap-x-10 gap-y-2 border-l-[3px] border-indigo bg-indigo-2 px-4 py-3 sm:grid-cols-[minmax(0,1fr)_auto]">
          <div>
            <p>
              <b>{t("gradebook.what-if.what-if-2")}</b>{" "}
              {t("gradebook.what-if.type-marks-into-the-rows-below")}
            </p>
            <div role="status">
              {some && <Outcome categories={result} missingCountsZero={missingCountsZero} />}
            </div>
          </div>
          <button type="button" className="button self-start" onClick={close}>
            {t("gradebook.what-if.back-to-my-real-marks")}
          </button>
        </div>
      ) : (
        <button type="button" className="button" onClick={() => setOpen(true)}>
          {t("gradebook.what-if.what-if-3")}
        </button>
      )}
      {open &&
        places.map((place) => {
          const id = place.dataset.whatIf ?? "";
          const item = categories.flatMap((category) => category.items).find((each) => each.id === id);
          if (!item) return null;
          const problem = problems.get(id);
          return createPortal(
            <label key={id} className="inline-grid justify-items-end gap-1 text-[0.8125rem]">
              <span className="sr-only">
                {t("gradebook.what-if.what-if-marks-in", { title: place.dataset.title ?? "" })}
              </span>
              <span className="flex items-center gap-1.5 text-indigo">
                {t("gradebook.what-if.if")}
                <input
                  className="field min-h-8! w-20! border-dashed py-0.5! text-right"
                  inputMode="decimal"
                  value={typed[id] ?? ""}
                  onChange={(event) => setTyped({ ...typed, [id]: event.target.value })}
                  maxLength={10}
                  aria-invalid={problem !== undefined}
                />
              </span>
              {problem && <span className="text-ochre">{say(problem)}</span>}
            </label>,
            place,
            id,
          );
        })}
    </section>
  );
}

function Outcome({
  categories,
  missingCountsZero,
}: {
  readonly categories: readonly Category[];
  readonly missingCountsZero: boolean;
}) {
  const options = { missingCountsZero };
  const standing = courseStanding(categories, options);
  const possible = possibleStanding(categories, options);
  return (
    <p className="mt-2 font-read text-xl">
      {t("gradebook.what-if.then-the-course-would-stand-at")} <b>{percentage(standing.markedSoFar)}</b>
      {standing.stillToCome.n !== 0n && (
        <span className="text-base">
          {possible.low && possible.high && possible.low.equals(possible.high)
            ? t("gradebook.what-if.end-at", { share: percentage(possible.low) })
            : t("gradebook.what-if.range", {
                low: percentage(possible.low),
                high: percentage(possible.high),
              })}
        </span>
      )}
      {t("gradebook.what-if.dot")}
    </p>
  );
}
