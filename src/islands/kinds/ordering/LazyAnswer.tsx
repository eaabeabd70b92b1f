import { lazy, Suspense, useEffect, useState } from "react";
import type { OrderingAnswer, PresentedOrdering } from "@/core/kinds/ordering/answer";
import type { AnswerProps } from "../answer-props";

/** Dragging is loaded only where there is something to drag. */
const Loaded = lazy(() => import("./Answer").then((module) => ({ default: module.OrderingView })));

/**
 * The ordering, once the page is alive. It is not made on the server: a part that comes alive later than the desk around it
 * would stand there twice for a moment when the journal brings a newer answer.
 */
export function OrderingView(props: AnswerProps<PresentedOrdering, OrderingAnswer>) {
  const [alive, setAlive] = useState(false);
  useEffect(() => setAlive(true), []);
  const waiting = <p className="border-t border-line py-3 text-ink-2">Laying the items out …</p>;
  return alive ? (
    <Suspense fallback={waiting}>
      <Loaded {...props} />
    </Suspense>
  ) : (
    waiting
  );
}
