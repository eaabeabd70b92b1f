import { Check, TriangleAlert } from "lucide-react";
import { useEffect, useState } from "react";
import { MINUTE, SECOND } from "@/core/time/instants";
import { ask } from "@/ui/requests";
import { t } from "@/words/t";
import { lengthInWords } from "@/words/times";
import { setUpOfflineDesk } from "../desk/offline-desk";
import { canKeepAnswers } from "../keeping/device-store";

interface Finding {
  readonly good: boolean;
  readonly words: string;
}

/** Looks at what the desk relies on: the connection, the device's memory, and how its clock is off. */
async function examine(): Promise<Finding[]> {
  const findings: Finding[] = [];
  try {
    const sent = performance.now();
    const { serverNow } = await ask<{ serverNow: number }>("/api/time");
    const trip = performance.now() - sent;
    findings.push({
      good: true,
      words: t("brief.device-check.connected-ms-to-the-server", { max: Math.max(1, Math.round(trip)) }),
    });
    const off = Date.now() - (serverNow + trip / 2);
    findings.push(clockFinding(off));
  } catch {
    findings.push({
      good: false,
      words: t("brief.device-check.no-connection-just-now-better-wait"),
    });
  }
  findings.push(
    (await canKeepAnswers())
      ? { good: true, words: t("brief.device-check.can-keep-answers-if-the-network") }
      : {
          good: false,
          words: t("brief.device-check.cannot-keep-answers-on-this-device"),
        },
  );
  return findings;
}

function clockFinding(off: number): Finding {
  if (Math.abs(off) < 5 * SECOND) return { good: true, words: t("brief.device-check.its-clock-is-right") };
  const size = Math.abs(off) < MINUTE ? Math.abs(off) : Math.round(Math.abs(off) / MINUTE) * MINUTE;
  return {
    good: false,
    words: t(off > 0 ? "brief.device-check.clock-fast" : "brief.device-check.clock-slow", {
      size: lengthInWords(size),
    }),
  };
}

/** The state of this device, before a clock starts. */
export function DeviceCheck({ timed }: { readonly timed: boolean }) {
  const [findings, setFindings] = useState<readonly Finding[] | null>(null);
  useEffect(() => {
    let gone = false;
    // Before the clock starts there is time to keep what the desk needs.
    void setUpOfflineDesk();
    examine().then((found) => !gone && setFindings(found));
    return () => {
      gone = true;
    };
  }, []);
  return (
    <section aria-labelledby="device">
      <h2 id="device" className="small font-bold">
        {t("brief.device-check.this-device")}
      </h2>
      <ul className="mt-2 grid gap-2" aria-live="polite">
        {findings === null ? (
          <li className="text-ink-2">{t("brief.device-check.looking-at-the-connection-the-clock")}</li>
        ) : (
          findings.map(({ good, words }) => (
            <li key={words} className="flex gap-2.5">
              {good ? (
                <Check aria-hidden="true" className="mt-0.5 size-4 shrink-0 text-moss" />
              ) : (
                <TriangleAlert aria-hidden="true" className="mt-0.5 size-4 shrink-0 text-ochre" />
              )}
              {words}
            </li>
          ))
        )}
      </ul>
      {timed && <p className="small mt-2">{t("brief.device-check.take-it-where-the-connection-is")}</p>}
    </section>
  );
}
