import { useState } from "react";
import type { Sitting } from "@/core/watch/watch-line";
import { Confirm } from "@/ui/Confirm";
import { ask, refusalOr } from "@/ui/requests";
import { t } from "@/words/t";

type Deed = "say" | "time" | "end" | "let-in";

interface DeedsProps {
  readonly quizId: string;
  /** Who is chosen; nobody: it is meant for everyone who writes. */
  readonly chosen: readonly Sitting[];
  readonly running: number;
  readonly mayAllow: boolean;
  readonly onDone: () => void;
}

const idsOf = (sittings: readonly Sitting[]) => sittings.map(({ attemptId }) => attemptId);

/** What can be done for those who write: say something, give more time, end, and let in again. */
export function Deeds({ quizId, chosen, running, mayAllow, onDone }: DeedsProps) {
  const [deed, setDeed] = useState<Deed | null>(null);
  const [words, setWords] = useState("");
  const [minutes, setMinutes] = useState("5");
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [told, setTold] = useState("");
  const writing = chosen.filter(({ handedInAt }) => handedInAt === null);
  const over = chosen.filter(({ handedInAt }) => handedInAt !== null);
  const someone = chosen.length > 0;
  const count = someone ? writing.length : running;
  const begin = (next: Deed) => {
    setDeed(next);
    setWords("");
    setProblem(null);
    setTold("");
  };
  const request = (): { path: string; body: object } => {
    const attemptIds = someone ? { attemptIds: idsOf(writing) } : {};
    const given = Number(minutes.replace(",", "."));
    switch (deed) {
      case "say":
        return { path: "messages", body: { text: words, ...attemptIds } };
      case "time":
        return { path: "extend", body: { minutes: given, reason: words, ...attemptIds } };
      case "end":
        return { path: "end", body: { attemptIds: idsOf(writing), reason: words } };
      default:
        return { path: "let-in", body: { attemptId: over[0]?.attemptId, minutes: given, reason: words } };
    }
  };
  const go = async () => {
    if (deed === null) return;
    setBusy(true);
    setProblem(null);
    try {
      const { path, body } = request();
      await ask(`/api/quizzes/${quizId}/${path}`, { body });
      setTold(
        {
          say: t("watch.deeds.said", { count }),
          time: t("watch.deeds.time-given", { count }),
          end: t("watch.deeds.ended", { count }),
          "let-in": t("watch.deeds.let-in", { name: over[0]?.name ?? "" }),
        }[deed],
      );
      setDeed(null);
      onDone();
    } catch (error) {
      setProblem(refusalOr(error, t("watch.deeds.the-server-cannot-be-reached")));
    }
    setBusy(false);
  };
  const whom = someone
    ? t("watch.deeds.for-these", {
        count: writing.length,
        names: writing
          .slice(0, 3)
          .map(({ name }) => name)
          .join(t("joint.commas")),
      })
    : t("watch.deeds.for-everyone", { count: running });
  const titles = {
    say: t("watch.deeds.say-something"),
    time: t("watch.deeds.give-more-time"),
    end: t("watch.deeds.end-the-attempt"),
    "let-in": t("watch.deeds.let-in-again"),
  };
  return (
    <div className="flex flex-wrap items-center gap-3">
      <span role="status" className="text-sm text-moss">
        {told}
      </span>
      <button type="button" className="button" disabled={count === 0} onClick={() => begin("say")}>
        {titles.say}
      </button>
      {mayAllow && (
        <>
          <button type="button" className="button" disabled={count === 0} onClick={() => begin("time")}>
            {titles.time}
          </button>
          {writing.length > 0 && (
            <button type="button" className="button" onClick={() => begin("end")}>
              {titles.end}
            </button>
          )}
          {over.length === 1 && writing.length === 0 && (
            <button type="button" className="button" onClick={() => begin("let-in")}>
              {titles["let-in"]}
            </button>
          )}
        </>
      )}
      <Confirm
        open={deed !== null}
        onOpenChange={(open) => !open && setDeed(null)}
        title={deed === null ? "" : titles[deed]}
        yes={
          deed === null
            ? ""
            : {
                say: t("watch.deeds.say-it"),
                time: t("watch.deeds.give-it"),
                end: t("watch.deeds.end-it"),
                "let-in": t("watch.deeds.let-in-yes"),
              }[deed]
        }
        no={t("watch.deeds.not-now")}
        busy={busy}
        problem={problem}
        onYes={() => void go()}
      >
        <p>{deed === "let-in" ? t("watch.deeds.for-one-again", { name: over[0]?.name ?? "" }) : whom}</p>
        {deed === "end" && <p>{t("watch.deeds.it-is-handed-in-as-it-stands")}</p>}
        {(deed === "time" || deed === "let-in") && (
          <label className="grid gap-1.5">
            <span className="label">{t("watch.deeds.minutes")}</span>
            <input
              className="field w-28"
              inputMode="decimal"
              value={minutes}
              maxLength={6}
              onChange={(event) => setMinutes(event.target.value)}
            />
          </label>
        )}
        <label className="grid gap-1.5">
          <span className="label">
            {deed === "say" ? t("watch.deeds.what-stands-at-their-desks") : t("watch.deeds.why")}
          </span>
          <textarea
            className="field min-h-20"
            maxLength={500}
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
        </label>
      </Confirm>
    </div>
  );
}
