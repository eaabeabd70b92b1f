import { type FormEvent, useRef, useState } from "react";
import { Listening } from "@/ui/Listening";
import { ask, refusalOr, sendBytes } from "@/ui/requests";
import { t } from "@/words/t";

/** Begins a quiz with its title. */
export function BeginQuiz({ slug }: { readonly slug: string }) {
  const [title, setTitle] = useState("");
  const [busy, setBusy] = useState(false);
  const field = useRef<HTMLInputElement>(null);
  const [isBringing, setBringing] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const begin = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    setProblem(null);
    try {
      const { id } = await ask<{ id: string }>(`/api/courses/${slug}/drafts`, { body: { title } });
      location.assign(`/drafts/${id}`);
    } catch (error) {
      setProblem(refusalOr(error, t("composer.composer-store.the-server-cannot-be-reached")));
      setBusy(false);
    }
  };
  const bring = async (file: File) => {
    setBusy(true);
    setBringing(true);
    setProblem(null);
    try {
      const { id } = await sendBytes<{ id: string }>(`/api/courses/${slug}/quiz-file`, file, 600_000);
      location.assign(`/drafts/${id}`);
    } catch (error) {
      setProblem(refusalOr(error, t("composer.composer-store.the-server-cannot-be-reached")));
      setBusy(false);
    }
    setBringing(false);
  };
  return (
    <Listening className="mt-6">
      <form className="sheet flex flex-wrap items-end gap-4 p-5" onSubmit={(event) => void begin(event)}>
        <label className="grid min-w-64 flex-1 gap-1.5">
          <span className="label">{t("composer.begin-quiz.title-of-a-new-quiz")}</span>
          <input
            className="field"
            value={title}
            maxLength={200}
            required
            onChange={({ target }) => setTitle(target.value)}
          />
        </label>
        <button type="submit" className="button button-main" disabled={busy || title.trim() === ""}>
          {busy ? t("ui.confirm.one-moment") : t("composer.begin-quiz.begin")}
        </button>
        <p className="flex basis-full flex-wrap items-center gap-3 text-sm text-ink-2">
          <button type="button" className="button" disabled={busy} onClick={() => field.current?.click()}>
            {t("composer.begin-quiz.bring")}
          </button>
          {isBringing ? (
            <span role="status">{t("composer.begin-quiz.bringing")}</span>
          ) : (
            t("composer.begin-quiz.what-is-taken")
          )}
          <input
            ref={field}
            type="file"
            accept=".json,.zip,application/json,application/zip"
            className="hidden"
            aria-hidden="true"
            tabIndex={-1}
            onChange={({ target }) => {
              const [file] = target.files ?? [];
              // The same file can be chosen again.
              target.value = "";
              if (file) void bring(file);
            }}
          />
        </p>
        {problem && (
          <p
            role="alert"
            className="basis-full whitespace-pre-line border-l-[3px] border-plum bg-plum-2 px-3 py-2 text-plum"
          >
            {problem}
          </p>
        )}
      </form>
    </Listening>
  );
}
