import { useState } from "react";
import { v4 as newId } from "uuid";
import { Listening } from "@/ui/Listening";
import { ask, refusalOr } from "@/ui/requests";
import { t } from "@/words/t";

/** Says something to everyone in a course, once. */
export function Announce({ slug, students }: { readonly slug: string; readonly students: number }) {
  // One for each announcement: sent again after a lost answer, it is the same.
  const [id] = useState(() => newId());
  const [text, setText] = useState("");
  const [until, setUntil] = useState("");
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const go = async () => {
    setBusy(true);
    setProblem(null);
    try {
      await ask(`/api/courses/${slug}/announcements`, {
        body: { id, text, until: until === "" ? null : until },
      });
      location.reload();
    } catch (error) {
      setProblem(refusalOr(error, t("course.announce.cannot-be-reached")));
      setBusy(false);
    }
  };
  return (
    <section className="sheet mt-6 max-w-2xl p-6">
      <Listening>
        <h2 className="font-read text-xl font-medium">{t("course.announce.say-something")}</h2>
        <label className="mt-3 grid gap-1.5">
          <span className="label">{t("course.announce.what-they-read")}</span>
          <textarea
            className="field min-h-28"
            maxLength={2_000}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        </label>
        <label className="mt-4 grid gap-1.5">
          <span className="label">{t("course.announce.until")}</span>
          <input
            type="date"
            className="field w-auto justify-self-start"
            value={until}
            max="9999-12-31"
            onChange={(event) => setUntil(event.target.value)}
          />
        </label>
        {problem !== null && (
          <p role="alert" className="mt-3 border-l-[3px] border-plum bg-plum-2 px-3 py-2 text-plum">
            {problem}
          </p>
        )}
        <div className="mt-4 flex flex-wrap items-center gap-3">
          <button
            type="button"
            className="button button-main"
            disabled={busy || text.trim() === ""}
            onClick={() => void go()}
          >
            {busy ? t("course.announce.one-moment") : t("course.announce.announce-it")}
          </button>
          <span className="small">{t("course.announce.goes-to", { count: students })}</span>
        </div>
      </Listening>
    </section>
  );
}

/** Takes an announcement off Today. */
export function TakeDown({ slug, id }: { readonly slug: string; readonly id: string }) {
  const [problem, setProblem] = useState<string | null>(null);
  const go = async () => {
    try {
      await ask(`/api/courses/${slug}/take-down`, { body: { id } });
      location.reload();
    } catch (error) {
      setProblem(refusalOr(error, t("course.announce.cannot-be-reached")));
    }
  };
  return (
    <>
      <button type="button" className="button" onClick={() => void go()}>
        {t("course.announce.take-it-down")}
      </button>
      {problem !== null && (
        <span role="alert" className="text-sm text-plum">
          {problem}
        </span>
      )}
    </>
  );
}
