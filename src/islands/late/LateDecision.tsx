import { useState } from "react";
import { ask, refusalOr } from "@/ui/requests";
import { t } from "@/words/t";

interface LateDecisionProps {
  readonly quizId: string;
  readonly paper: number;
  /** Its place in the attempt. */
  readonly question: number;
  readonly writtenAt: number;
  readonly arrivedAt: number;
}

/** Takes what came late, or leaves it, with a reason that its student reads. */
export function LateDecision({ quizId, paper, question, writtenAt, arrivedAt }: LateDecisionProps) {
  const [reason, setReason] = useState("");
  const [done, setDone] = useState<"taken" | "left" | null>(null);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const decide = async (decision: "taken" | "left") => {
    setBusy(true);
    setProblem(null);
    try {
      await ask(`/api/quizzes/${quizId}/papers/${paper}/late`, {
        body: { slot: question, decision, reason, writtenAt, arrivedAt },
      });
      setDone(decision);
    } catch (error) {
      setProblem(refusalOr(error, t("late.late-decision.the-server-cannot-be-reached")));
    }
    setBusy(false);
  };
  if (done !== null)
    return (
      <p role="status" className="mt-4 border-l-[3px] border-moss bg-moss-2 px-4 py-2.5">
        {done === "taken" ? t("late.late-decision.taken") : t("late.late-decision.left")}
      </p>
    );
  return (
    <div className="mt-4 grid gap-3">
      <label className="grid gap-1.5 text-sm">
        {t("late.late-decision.reason-told-to-the-student")}
        <input
          className="field"
          value={reason}
          maxLength={500}
          onChange={(event) => setReason(event.target.value)}
        />
      </label>
      <p className="flex flex-wrap gap-3">
        <button type="button" className="button" disabled={busy} onClick={() => void decide("taken")}>
          {t("late.late-decision.take-what-came-later")}
        </button>
        <button type="button" className="button" disabled={busy} onClick={() => void decide("left")}>
          {t("late.late-decision.leave-what-stood")}
        </button>
      </p>
      {problem && (
        <p role="alert" className="border-l-[3px] border-plum bg-plum-2 px-3 py-2 text-plum">
          {problem}
        </p>
      )}
    </div>
  );
}
