import { useState } from "react";
import { Confirm } from "@/ui/Confirm";
import { ask, refusalOr } from "@/ui/requests";

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
      setProblem(refusalOr(error, "The server cannot be reached just now. Try again in a moment."));
      setBusy(false);
    }
  };
  return (
    <div className="mt-5">
      <p>
        You can take this hand-in back{until ? ` until ${until}` : ""}.{" "}
        <button type="button" className="min-h-6 underline" onClick={() => setAsking(true)}>
          Take it back
        </button>
      </p>
      <Confirm
        open={asking}
        onOpenChange={setAsking}
        title="Take the hand-in back?"
        yes="Take it back"
        no="Leave it handed in"
        busy={busy}
        problem={problem}
        onYes={takeBack}
      >
        <p>
          The same attempt runs again with everything in it, and its clock has never stopped. Hand it in again
          before the time ends; if you do not, the clock does. This slip stays as it is.
        </p>
      </Confirm>
    </div>
  );
}
