import { useEffect, useState } from "react";
import { t } from "@/words/t";
import { deliverLeftovers } from "../keeping/leftovers";

interface LateDeliveryProps {
  readonly attemptId: string;
  /** Questions of which the server has late writing already. */
  readonly delivered: readonly number[];
  readonly instructor: string;
}

/** Brings what this device still holds of a handed-in attempt to the server, and says what becomes of it. */
export function LateDelivery({ attemptId, delivered, instructor }: LateDeliveryProps) {
  const [slots, setSlots] = useState(delivered);
  useEffect(() => {
    deliverLeftovers(attemptId).then((late) => {
      if (late.length > 0) setSlots((known) => [...new Set([...known, ...late])].sort((a, b) => a - b));
    });
  }, [attemptId]);
  if (slots.length === 0) return null;
  return (
    <div role="status" className="mt-5 border-l-[3px] border-ochre bg-ochre-2 px-4 py-3">
      <p>
        <b>{t("slip.late-delivery.late-writing")}</b>{" "}
        {t("slip.late-delivery.other-had-been-written-on-a", {
          slotsCount: slots.length,
          slots: slots.join(t("joint.commas")),
          instructor,
        })}
      </p>
    </div>
  );
}
