import { useState } from "react";
import { Listening } from "@/ui/Listening";
import { ask, refusalOr } from "@/ui/requests";
import { t } from "@/words/t";

interface DraftAwayProps {
  readonly slug: string;
  readonly draftId: string;
  readonly title: string;
  /** It was put away, and can be brought back. */
  readonly isAway: boolean;
}

/** Puts a draft away, or brings it back: either is undone by the other. */
export function DraftAway({ slug, draftId, title, isAway }: DraftAwayProps) {
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const go = async () => {
    setBusy(true);
    setProblem(null);
    try {
      if (isAway) await ask(`/api/courses/${slug}/drafts/bring-back`, { body: { draft: draftId } });
      else await ask(`/api/drafts/${draftId}/put-away`, { body: {} });
      location.reload();
    } catch (error) {
      setProblem(refusalOr(error, t("composer.composer-store.the-server-cannot-be-reached")));
      setBusy(false);
    }
  };
  return (
    <Listening className="relative z-10">
      <button type="button" className="min-h-6 text-sm underline" disabled={busy} onClick={() => void go()}>
        {isAway ? t("composer.draft-away.bring-back") : t("composer.draft-away.put-away")}
        <span className="sr-only">: {title}</span>
      </button>
      {problem && (
        <span role="alert" className="ml-3 text-sm text-plum">
          {problem}
        </span>
      )}
    </Listening>
  );
}
