import { useState } from "react";
import { ask, refusalOr } from "@/ui/requests";
import { t } from "@/words/t";

interface ShareOutProps {
  readonly quizId: string;
  readonly markers: readonly { readonly id: string; readonly name: string }[];
}

/** Shares the papers that await marking out among those who may mark. */
export function ShareOut({ quizId, markers }: ShareOutProps) {
  const [chosen, setChosen] = useState<readonly string[]>(markers.map(({ id }) => id));
  const [told, setTold] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const share = async () => {
    try {
      const { shares } = await ask<{ shares: { name: string; papers: number }[] }>(
        `/api/quizzes/${quizId}/share`,
        {
          body: { markers: chosen },
        },
      );
      setProblem(null);
      setTold(
        shares
          .map(({ name, papers }) => t("returning.share-out.name-papers", { name, papers }))
          .join(t("joint.commas")),
      );
    } catch (error) {
      setProblem(refusalOr(error, t("returning.share-out.the-server-cannot-be-reached")));
    }
  };
  return (
    <details>
      <summary className="small min-h-6 font-bold">{t("returning.share-out.share-the-pile-out")}</summary>
      <p className="small mt-2">{t("returning.share-out.the-papers-that-await")}</p>
      <ul className="mt-2 grid gap-1">
        {markers.map(({ id, name }) => (
          <li key={id}>
            <label className="flex min-h-8 items-center gap-2.5">
              <input
                type="checkbox"
                className="size-4.5"
                checked={chosen.includes(id)}
                onChange={(event) =>
                  setChosen(event.target.checked ? [...chosen, id] : chosen.filter((each) => each !== id))
                }
              />
              {name}
            </label>
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="button mt-2"
        disabled={chosen.length === 0}
        onClick={() => void share()}
      >
        {t("returning.share-out.share-out")}
      </button>
      {told && (
        <p role="status" className="mt-2 text-moss">
          {told}
        </p>
      )}
      {problem && (
        <p role="alert" className="mt-2 text-plum">
          {problem}
        </p>
      )}
    </details>
  );
}
