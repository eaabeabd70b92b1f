import { useState } from "react";
import { Confirm } from "@/ui/Confirm";
import { ask, refusalOr } from "@/ui/requests";
import { t } from "@/words/t";

/** Reopens a hand-in where the quiz allows it. */
export function TakeBack({
  attemptId,
  until,
}: {
  readonly attemptId: string;
  readonly until: string | null;
}) {
  const [asking, setAsking] = useState(false);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const takeBack = async () => {
    setBusy(true);
    try {
      const { desk } = await ask<{ desk: string }>(`/api/attempts/${attemptId}/take-back`, { body: {} });
      location.assign(desk);
    } catch (error) {
      setProblem(refusalOr(error, t("slip.take-back.the-server-cannot-be-reached-just")));
      setBusy(false);
    }
  };
  return (
    <div className="mt-5">
      <p>
        {until
          ? t("slip.take-back.you-can-take-it-back-until", { until })
          : t("slip.take-back.you-can-take-this-hand-in")}{" "}
        <button type="button" className="min-h-6 underline" onClick={() => setAsking(true)}>
          {t("slip.take-back.take-it-back")}
        </button>
      </p>
      <Confirm
        open={asking}
        onOpenChange={setAsking}
        title={t("slip.take-back.take-the-hand-in-back")}
        yes={t("slip.take-back.take-it-back")}
        no={t("slip.take-back.leave-it-handed-in")}
        busy={busy}
        problem={problem}
        onYes={takeBack}
      >
        <p>{t("slip.take-back.the-same-attempt-runs-again-with")}</p>
      </Confirm>
    </div>
  );
}
