import { useEffect, useState } from "react";
import { counted } from "@/core/time/words";
import { forgetKeptDesks } from "../desk/kept-desk";
import { deliverLeftovers } from "../desk/leftovers";
import { forgetLeft, type Leftovers, leftOnDevice, lockLeft } from "../desk/locked-store";

interface LeavingDeviceProps {
  /** Sign out as soon as nothing is left on this device that the server does not have. */
  readonly atOnce: boolean;
}

const leave = () => document.querySelector<HTMLFormElement>("form[data-leave]")?.requestSubmit();

const thingsLeft = ({ answers, files }: Leftovers): string =>
  [answers > 0 && counted(answers, "answer"), files > 0 && counted(files, "file")]
    .filter(Boolean)
    .join(" and ");

/** Before signing out: what is only on this device is told, and goes the way that its owner says. */
export function LeavingDevice({ atOnce }: LeavingDeviceProps) {
  const [left, setLeft] = useState<Leftovers | null>(null);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const look = async (): Promise<Leftovers | null> => {
    const found = await leftOnDevice().catch(() => null);
    await forgetKeptDesks();
    setLeft(found);
    return found;
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the page is there
  useEffect(() => {
    void look().then((found) => {
      if (atOnce && (found?.attempts.length ?? 0) === 0) leave();
    });
  }, []);

  const send = async () => {
    setBusy(true);
    setProblem(null);
    for (const attemptId of left?.attempts ?? []) await deliverLeftovers(attemptId);
    const found = await look();
    setBusy(false);
    if (found && found.attempts.length > 0)
      setProblem(
        "Not all of it could be sent. There may be no connection, or the attempt is over; files go from the desk alone.",
      );
  };
  const lockAndLeave = async () => {
    setBusy(true);
    try {
      await lockLeft(left?.attempts ?? []);
      leave();
    } catch {
      setBusy(false);
      setProblem("It could not be locked: that needs a connection. Stay, or try again in a moment.");
    }
  };
  const forgetAndLeave = async () => {
    setBusy(true);
    await forgetLeft(left?.attempts ?? []).catch(() => {});
    leave();
  };

  const isLeft = left !== null && left.attempts.length > 0;
  useEffect(() => {
    // With something left there are the ways out that say what becomes of it, and no other.
    const ways = document.querySelector<HTMLElement>("[data-ways]");
    if (ways) ways.hidden = isLeft;
  }, [isLeft]);

  if (!isLeft) return null;
  const [attempt] = left.attempts;
  const isOne = left.answers + left.files === 1;
  return (
    <section className="mt-6 border-l-[3px] border-ochre bg-ochre-2 px-4 py-3" aria-live="polite">
      <h2 className="font-bold">
        {thingsLeft(left)} {isOne ? "is" : "are"} not on the server yet
      </h2>
      <p className="mt-1">
        {isOne ? "It is" : "They are"} on this device alone. Stay, or send {isOne ? "it" : "them"} now. If you
        sign out all the same, {isOne ? "it" : "they"} can stay here locked, so that only you can open{" "}
        {isOne ? "it" : "them"} when you sign in on this device again.
      </p>
      {problem && (
        <p role="alert" className="mt-2 text-plum">
          {problem}
        </p>
      )}
      <div className="mt-3 flex flex-wrap gap-3">
        <button type="button" className="button button-main" disabled={busy} onClick={() => void send()}>
          Send {isOne ? "it" : "them"} now
        </button>
        <a className="button" href={`/attempts/${attempt}`}>
          Stay
        </a>
        <button type="button" className="button" disabled={busy} onClick={() => void lockAndLeave()}>
          Lock {isOne ? "it" : "them"} here and sign out
        </button>
        <button
          type="button"
          className="button text-plum"
          disabled={busy}
          onClick={() => void forgetAndLeave()}
        >
          Delete {isOne ? "it" : "them"} and sign out
        </button>
      </div>
    </section>
  );
}
