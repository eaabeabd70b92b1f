import { useState } from "react";
import { Listening } from "@/ui/Listening";
import { ask, refusalOr } from "@/ui/requests";
import { t } from "@/words/t";

interface SharedCourse {
  readonly slug: string;
  readonly title: string;
  readonly shares: boolean;
}

/** Which other courses of the same instructor may take from this bank. */
export function BankShared({
  slug,
  courses,
}: {
  readonly slug: string;
  readonly courses: readonly SharedCourse[];
}) {
  const [held, setHeld] = useState(courses);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const share = async (other: string, shares: boolean) => {
    setBusy(true);
    setProblem(null);
    try {
      await ask(`/api/courses/${slug}/bank/share`, { body: { with: other, shares } });
      setHeld(held.map((each) => (each.slug === other ? { ...each, shares } : each)));
    } catch (error) {
      setProblem(refusalOr(error, t("composer.composer-store.the-server-cannot-be-reached")));
    }
    setBusy(false);
  };
  return (
    <Listening className="mt-2 grid gap-2">
      {held.map(({ slug: other, title, shares }) => (
        <label key={other} className="flex items-center gap-3">
          <input
            type="checkbox"
            className="size-[1.125rem] accent-indigo"
            disabled={busy}
            checked={shares}
            onChange={({ target }) => void share(other, target.checked)}
          />
          {title}
        </label>
      ))}
      {problem && (
        <p role="alert" className="text-plum">
          {problem}
        </p>
      )}
    </Listening>
  );
}
