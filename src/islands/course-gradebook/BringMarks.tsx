import { useId, useState } from "react";
import type { MarksFilePreview } from "@/core/gradebook/marks-file-preview";
import { Listening } from "@/ui/Listening";
import { refusalOr, send } from "@/ui/requests";
import { t } from "@/words/t";

/** As many changes are listed; the rest is counted. */
const LISTED = 500;

/** Brings a table of marks in: what it would change is shown first, and what is wrong with it, line by line. */
export function BringMarks({ slug }: { readonly slug: string }) {
  const id = useId();
  const [file, setFile] = useState<File | null>(null);
  const [preview, setPreview] = useState<MarksFilePreview | null>(null);
  const [reason, setReason] = useState("");
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [set, setSet] = useState<number | null>(null);
  const post = <T,>(chosen: File, terms: Readonly<Record<string, string>> = {}): Promise<T> => {
    const form = new FormData();
    form.append("file", chosen);
    for (const [name, value] of Object.entries(terms)) form.append(name, value);
    return send<T>(`/api/courses/${slug}/gradebook/file`, form);
  };
  const tried = async (what: () => Promise<void>) => {
    setBusy(true);
    setProblem(null);
    try {
      await what();
    } catch (error) {
      setProblem(refusalOr(error, t("course-gradebook.cell-panel.cannot-be-reached")));
    }
    setBusy(false);
  };
  const look = (chosen: File) =>
    tried(async () => {
      setFile(chosen);
      setPreview(null);
      setSet(null);
      setPreview(await post<MarksFilePreview>(chosen));
    });
  const bring = () =>
    tried(async () => {
      if (!file || !preview) return;
      if (reason.trim() === "") {
        document.getElementById(`${id}-reason`)?.focus();
        throw new TypeError();
      }
      const done = await post<{ set: number }>(file, { reason, expects: preview.expects });
      setSet(done.set);
      setPreview(null);
      setReason("");
    });
  return (
    <Listening className="mt-6">
      <label className="inline-grid gap-1.5">
        <span className="label">{t("course-gradebook.bring-marks.the-table")}</span>
        <input
          type="file"
          accept=".csv,.tsv,.txt,text/csv,text/tab-separated-values,text/plain"
          className="field h-auto py-2 file:mr-3 file:rounded-md file:border file:border-line-2 file:bg-paper file:px-3 file:py-1.5 file:font-bold"
          disabled={busy}
          onChange={({ target }) => {
            const chosen = target.files?.[0];
            // Chosen again after it was put right, it is looked over again.
            target.value = "";
            if (chosen) void look(chosen);
          }}
        />
      </label>
      {file !== null && <p className="small mt-1.5">{file.name}</p>}
      <div role="status" className="mt-4">
        {busy && <p className="text-ink-2">{t("course-gradebook.cell-panel.one-moment")}</p>}
        {set !== null && (
          <p className="border-l-[3px] border-moss bg-moss-2 px-4 py-2.5">
            {t("course-gradebook.bring-marks.done", { count: set })}
            <a className="ml-3 inline-block py-1 underline" href={`/courses/${slug}/gradebook`}>
              {t("course-gradebook.bring-marks.to-the-gradebook")}
            </a>
          </p>
        )}
      </div>
      {problem !== null && (
        <p
          role="alert"
          className="mt-4 max-w-[44rem] border-l-[3px] border-plum bg-plum-2 px-4 py-2.5 text-plum"
        >
          {problem || t("course-gradebook.set-mark.say-why-first")}
        </p>
      )}
      {preview !== null && preview.mistakes.length > 0 && <Mistakes preview={preview} />}
      {preview !== null && preview.mistakes.length === 0 && preview.changes.length === 0 && (
        <p className="mt-4 font-read text-lg">{t("course-gradebook.bring-marks.changes-nothing")}</p>
      )}
      {preview !== null && preview.mistakes.length === 0 && preview.changes.length > 0 && (
        <div className="mt-4">
          <h2 className="font-read text-xl font-medium">
            {t("course-gradebook.bring-marks.would-set", { count: preview.changes.length })}
          </h2>
          {preview.isOld && <p className="mt-1 text-ochre">{t("course-gradebook.bring-marks.is-old")}</p>}
          <div className="mt-3 flex max-w-[44rem] flex-wrap items-end gap-3">
            <label className="grid min-w-60 flex-1 gap-1.5">
              <span className="label">{t("course-gradebook.set-mark.the-reason")}</span>
              <input
                id={`${id}-reason`}
                className="field"
                value={reason}
                maxLength={500}
                onChange={(event) => setReason(event.target.value)}
              />
            </label>
            <button type="button" className="button button-main" disabled={busy} onClick={() => void bring()}>
              {t("course-gradebook.bring-marks.set-these", { count: preview.changes.length })}
            </button>
          </div>
          <Changes preview={preview} />
        </div>
      )}
    </Listening>
  );
}

function Mistakes({ preview: { mistakes, moreMistakes } }: { readonly preview: MarksFilePreview }) {
  return (
    <section className="mt-4 max-w-[52rem]">
      <h2 className="font-read text-xl font-medium">
        {t("course-gradebook.bring-marks.to-put-right", { count: mistakes.length + moreMistakes })}
      </h2>
      <p className="small mt-1">{t("course-gradebook.bring-marks.nothing-was-changed")}</p>
      <ol className="mt-2 divide-y divide-line">
        {mistakes.map(({ line, words }) => (
          <li key={`${line} ${words}`} className="flex gap-4 py-2">
            <span className="small w-20 shrink-0">{t("course-gradebook.bring-marks.line", { line })}</span>
            <span>{words}</span>
          </li>
        ))}
      </ol>
      {moreMistakes > 0 && (
        <p className="small mt-2">{t("course-gradebook.bring-marks.and-more", { count: moreMistakes })}</p>
      )}
    </section>
  );
}

function Changes({ preview: { changes } }: { readonly preview: MarksFilePreview }) {
  return (
    <div className="mt-4 overflow-x-auto">
      <table className="w-full max-w-[52rem] text-left">
        <thead className="small">
          <tr className="border-b border-ink">
            <th scope="col" className="py-2 pr-4 font-bold">
              {t("course-gradebook.gradebook-table.student")}
            </th>
            <th scope="col" className="py-2 pr-4 font-bold">
              {t("course-gradebook.bring-marks.work")}
            </th>
            <th scope="col" className="py-2 pr-4 text-right font-bold">
              {t("course-gradebook.bring-marks.now")}
            </th>
            <th scope="col" className="py-2 text-right font-bold">
              {t("course-gradebook.bring-marks.then")}
            </th>
          </tr>
        </thead>
        <tbody>
          {changes.slice(0, LISTED).map(({ line, name, title, from, to, maximum }) => (
            <tr key={`${line} ${title}`} className="border-b border-line">
              <th scope="row" className="py-1.5 pr-4 font-bold">
                {name}
              </th>
              <td className="py-1.5 pr-4">{title}</td>
              <td className="py-1.5 pr-4 text-right text-ink-2">{from || "–"}</td>
              <td className="py-1.5 text-right">
                <b>{to}</b>{" "}
                <span className="small">{t("course-gradebook.gradebook-table.out-of", { maximum })}</span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {changes.length > LISTED && (
        <p className="small mt-2">
          {t("course-gradebook.bring-marks.and-more", { count: changes.length - LISTED })}
        </p>
      )}
    </div>
  );
}
