import { type FormEvent, useState } from "react";
import { Listening } from "@/ui/Listening";
import { ask, refusalOr } from "@/ui/requests";
import { t } from "@/words/t";

/** Begins a quiz with its title. */
export function BeginQuiz({ slug }: { readonly slug: string }) {
  const [title, setTitle] = useState("");
  const [busy, setBusy] = useState(false);
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
        {problem && (
          <p role="alert" className="basis-full border-l-[3px] border-plum bg-plum-2 px-3 py-2 text-plum">
            {problem}
          </p>
        )}
      </form>
    </Listening>
  );
}
