import { useState } from "react";
import { Confirm } from "@/ui/Confirm";
import { Listening } from "@/ui/Listening";
import { ask, refusalOr } from "@/ui/requests";
import { t } from "@/words/t";
import { nearDay } from "@/words/times";

interface Paper {
  readonly attemptId: string;
  readonly paper: number;
  readonly number: number;
  readonly name: string | null;
  readonly state: "ready" | "not-ready" | "returned" | "changed";
  readonly why: string;
  readonly figure: string;
  readonly returnedAt: number | null;
  readonly readAt: number | null;
  readonly sections: readonly string[];
}

interface ReturnListProps {
  readonly quizId: string;
  readonly papers: readonly Paper[];
  readonly sections: readonly { readonly id: string; readonly title: string }[];
  readonly namesHidden: boolean;
  readonly now: number;
  readonly zone: string;
}

type Asked = { readonly deed: "return" | "back"; readonly papers: readonly Paper[] };

/** The papers of a quiz: which are ready, which are not and why; returned together, and taken back with a reason. */
export function ReturnList({ quizId, papers, sections, namesHidden, now, zone }: ReturnListProps) {
  const [section, setSection] = useState("");
  const [picked, setPicked] = useState<readonly string[]>([]);
  const [asked, setAsked] = useState<Asked | null>(null);
  const [reason, setReason] = useState("");
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [told, setTold] = useState<string | null>(null);
  const listed = papers.filter((paper) => section === "" || paper.sections.includes(section));
  const of = (...states: Paper["state"][]) => listed.filter(({ state }) => states.includes(state));
  const ready = of("ready", "changed");
  const notReady = of("not-ready");
  const unreturned = listed.filter(
    ({ state, returnedAt }) => state !== "returned" && (returnedAt === null || state === "changed"),
  );
  const chosen = listed.filter(({ attemptId }) => picked.includes(attemptId));
  const name = (paper: Paper) => paper.name ?? t("returning.return-list.paper", { paper: paper.paper });
  const go = async () => {
    if (!asked) return;
    setBusy(true);
    const attemptIds = asked.papers.map(({ attemptId }) => attemptId);
    try {
      if (asked.deed === "return") {
        await ask(`/api/quizzes/${quizId}/return`, { body: { attemptIds } });
        location.reload();
      } else {
        const { takenBack, read } = await ask<{ takenBack: number; read: string[] }>(
          `/api/quizzes/${quizId}/return-back`,
          {
            body: { attemptIds, reason },
          },
        );
        setTold(
          t("returning.return-list.taken-back-read-by", {
            takenBack,
            readers: read.length,
            names: namesHidden ? "" : read.join(t("joint.commas")),
          }),
        );
        setAsked(null);
        setTimeout(() => location.reload(), 4_000);
      }
    } catch (error) {
      setProblem(refusalOr(error, t("returning.share-out.the-server-cannot-be-reached")));
    }
    setBusy(false);
  };
  const open = (next: Asked) => {
    setProblem(null);
    setReason("");
    setAsked(next);
  };
  if (papers.length === 0)
    return (
      <p className="mt-8 border-t border-line pt-4 font-read text-lg">
        {t("returning.return-list.nothing-has-been-handed-in")}
      </p>
    );
  const states = {
    ready: t("returning.return-list.ready"),
    "not-ready": t("returning.return-list.not-ready"),
    returned: t("returning.return-list.returned"),
    changed: t("returning.return-list.changed-since"),
  };
  return (
    <Listening>
      <div className="mt-6 flex flex-wrap items-center gap-3">
        <button
          type="button"
          className="button button-main"
          disabled={ready.length === 0}
          onClick={() => open({ deed: "return", papers: ready })}
        >
          {t("returning.return-list.return-what-is-ready", { count: ready.length })}
        </button>
        {notReady.length > 0 && unreturned.length > ready.length && (
          <button
            type="button"
            className="button"
            onClick={() => open({ deed: "return", papers: unreturned })}
          >
            {t("returning.return-list.return-all", { count: unreturned.length })}
          </button>
        )}
        {chosen.length > 0 && (
          <>
            <button type="button" className="button" onClick={() => open({ deed: "return", papers: chosen })}>
              {t("returning.return-list.return-chosen", { count: chosen.length })}
            </button>
            {chosen.some(({ returnedAt }) => returnedAt !== null) && (
              <button
                type="button"
                className="button"
                onClick={() =>
                  open({ deed: "back", papers: chosen.filter(({ returnedAt }) => returnedAt !== null) })
                }
              >
                {t("returning.return-list.take-back-chosen")}
              </button>
            )}
          </>
        )}
        {sections.length > 0 && (
          <label className="ml-auto flex items-center gap-2 text-sm">
            {t("returning.return-list.section")}
            <select
              className="field h-9 min-h-0 w-auto py-0"
              value={section}
              onChange={(event) => setSection(event.target.value)}
            >
              <option value="">{t("returning.return-list.all-sections")}</option>
              {sections.map(({ id, title }) => (
                <option key={id} value={id}>
                  {title}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
      {told && (
        <p role="status" className="mt-4 border-l-[3px] border-moss bg-moss-2 px-4 py-2.5">
          {told}
        </p>
      )}
      <div className="relative mt-5 overflow-x-auto">
        <table className="w-full border-t border-line text-left">
          <thead className="small">
            <tr>
              <th scope="col" className="w-10 py-2 font-normal">
                <input
                  type="checkbox"
                  className="size-4.5"
                  aria-label={t("returning.return-list.choose-all")}
                  checked={chosen.length === listed.length}
                  onChange={(event) =>
                    setPicked(event.target.checked ? listed.map(({ attemptId }) => attemptId) : [])
                  }
                />
              </th>
              <th scope="col" className="py-2 pr-4 font-normal">
                {t("returning.return-list.student")}
              </th>
              <th scope="col" className="py-2 pr-4 font-normal">
                {t("returning.return-list.state")}
              </th>
              <th scope="col" className="py-2 pr-4 text-right font-normal">
                {t("returning.return-list.marks")}
              </th>
              <th scope="col" className="py-2 font-normal">
                <span className="sr-only">{t("returning.return-list.look")}</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {listed.map((paper) => (
              <tr key={paper.attemptId} className="border-t border-line align-baseline">
                <td className="py-2">
                  <input
                    type="checkbox"
                    className="size-4.5 translate-y-0.5"
                    aria-label={t("returning.return-list.choose", { name: name(paper) })}
                    checked={picked.includes(paper.attemptId)}
                    onChange={(event) =>
                      setPicked(
                        event.target.checked
                          ? [...picked, paper.attemptId]
                          : picked.filter((each) => each !== paper.attemptId),
                      )
                    }
                  />
                </td>
                <th scope="row" className="py-2 pr-4 font-normal">
                  {name(paper)}
                  {paper.number > 1 && (
                    <span className="small">
                      {" "}
                      · {t("returning.return-list.attempt", { number: paper.number })}
                    </span>
                  )}
                </th>
                <td className="py-2 pr-4">
                  <span
                    className={
                      paper.state === "not-ready"
                        ? "text-ochre"
                        : paper.state === "returned"
                          ? "text-ink-2"
                          : "font-bold"
                    }
                  >
                    {states[paper.state]}
                  </span>
                  {paper.why && <span className="small">: {paper.why}</span>}
                  {paper.returnedAt !== null && (
                    <span className="small block">
                      {t("returning.return-list.returned-at", { at: nearDay(paper.returnedAt, now, zone) })}
                      {paper.readAt !== null &&
                        ` · ${t("returning.return-list.read-at", { at: nearDay(paper.readAt, now, zone) })}`}
                    </span>
                  )}
                </td>
                <td className="py-2 pr-4 text-right whitespace-nowrap">{paper.figure}</td>
                <td className="py-2 text-right">
                  {!namesHidden && (
                    <a
                      className="inline-block py-0.5 underline"
                      href={`/attempts/${paper.attemptId}/paper?preview`}
                    >
                      {t("returning.return-list.as-its-student-will-read-it")}
                      <span className="sr-only"> {name(paper)}</span>
                    </a>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {namesHidden && <p className="small mt-3">{t("returning.return-list.names-are-hidden")}</p>}
      <Confirm
        open={asked !== null}
        onOpenChange={(isOpen) => !isOpen && setAsked(null)}
        title={
          asked?.deed === "back"
            ? t("returning.return-list.take-the-return-back", { count: asked.papers.length })
            : t("returning.return-list.return-papers", { count: asked?.papers.length ?? 0 })
        }
        yes={
          asked?.deed === "back" ? t("returning.return-list.take-it-back") : t("returning.return-list.return")
        }
        no={t("returning.return-list.not-now")}
        busy={busy}
        problem={problem}
        onYes={() => void go()}
      >
        {asked?.deed === "back" ? (
          <>
            <p>{t("returning.return-list.marks-and-feedback-are-hidden-again")}</p>
            {asked.papers.some(({ readAt }) => readAt !== null) && (
              <p>
                {t("returning.return-list.have-read-it", {
                  names: asked.papers
                    .filter(({ readAt }) => readAt !== null)
                    .map(name)
                    .join(t("joint.commas")),
                })}
              </p>
            )}
            <label className="mt-2 grid gap-1.5 font-bold">
              {t("returning.return-list.why-the-students-read-it")}
              <input
                className="field font-normal"
                value={reason}
                maxLength={500}
                onChange={(event) => setReason(event.target.value)}
              />
            </label>
          </>
        ) : (
          <>
            <p>{t("returning.return-list.everyone-is-told-once")}</p>
            {(asked?.papers ?? []).some(({ state }) => state === "not-ready") && (
              <p className="border-l-[3px] border-ochre bg-ochre-2 px-3 py-2">
                {t("returning.return-list.not-ready-are-returned-as-they-are", {
                  count: (asked?.papers ?? []).filter(({ state }) => state === "not-ready").length,
                })}
              </p>
            )}
          </>
        )}
      </Confirm>
    </Listening>
  );
}
