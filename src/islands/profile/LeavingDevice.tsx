import { useEffect, useState } from "react";
import { t } from "@/words/t";
import { forgetOfflineDesks } from "../desk/offline-desk";
import { deliverLeftovers } from "../keeping/leftovers";
import { forgetLeft, type Leftovers, leftOnDevice, lockLeft } from "../keeping/locked-store";

interface LeavingDeviceProps {
  /** Sign out as soon as nothing is left on this device that the server does not have. */
  readonly atOnce: boolean;
}

const leave = () => document.querySelector<HTMLFormElement>("form[data-leave]")?.requestSubmit();

const thingsLeft = ({ answers, files }: Leftovers): string =>
  [
    answers > 0 && t("profile.leaving-device.other", { answers }),
    files > 0 && t("profile.leaving-device.other-2", { files }),
  ]
    .filter(Boolean)
    .join(t("profile.leaving-device.and"));

/** Before signing out: what is only on this device is told, and goes the way that its owner says. */
export function LeavingDevice({ atOnce }: LeavingDeviceProps) {
  const [left, setLeft] = useState<Leftovers | null>(null);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const look = async (): Promise<Leftovers | null> => {
    const found = await leftOnDevice().catch(() => null);
    await forgetOfflineDesks();
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
    if (found && found.attempts.length > 0) setProblem(t("profile.leaving-device.not-all-of-it-could-be"));
  };
  const lockAndLeave = async () => {
    setBusy(true);
    try {
      await lockLeft(left?.attempts ?? []);
      leave();
    } catch {
      setBusy(false);
      setProblem(t("profile.leaving-device.it-could-not-be-locked-that"));
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
  const count = left.answers + left.files;
  return (
    <section className="mt-6 border-l-[3px] border-ochre bg-ochre-2 px-4 py-3" aria-live="polite">
      <h2 className="font-bold">
        {t("profile.leaving-device.not-on-the-server-yet", {
          things: thingsLeft(left),
          count,
        })}
      </h2>
      <p className="mt-1">{t("profile.leaving-device.on-this-device-alone-stay-or", { count })}</p>
      {problem && (
        <p role="alert" className="mt-2 text-plum">
          {problem}
        </p>
      )}
      <div className="mt-3 flex flex-wrap gap-3">
        <button type="button" className="button button-main" disabled={busy} onClick={() => void send()}>
          {t("profile.leaving-device.send-now", { count })}
        </button>
        <a className="button" href={`/attempts/${attempt}`}>
          {t("profile.leaving-device.stay")}
        </a>
        <button type="button" className="button" disabled={busy} onClick={() => void lockAndLeave()}>
          {t("profile.leaving-device.lock-here-and-sign-out", { count })}
        </button>
        <button
          type="button"
          className="button text-plum"
          disabled={busy}
          onClick={() => void forgetAndLeave()}
        >
          {t("profile.leaving-device.delete-and-sign-out", { count })}
        </button>
      </div>
    </section>
  );
}
