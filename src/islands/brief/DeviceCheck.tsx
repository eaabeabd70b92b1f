import { Check, TriangleAlert } from "lucide-react";
import { useEffect, useState } from "react";
import { MINUTE, SECOND } from "@/core/time/instants";
import { lengthInWords } from "@/core/time/words";
import { ask } from "@/ui/requests";
import { canKeepAnswers } from "../desk/device-store";
import { setUpKeeping } from "../desk/kept-desk";

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
    findings.push({ good: true, words: `Connected, ${Math.max(1, Math.round(trip))} ms to the server` });
    const off = Date.now() - (serverNow + trip / 2);
    findings.push(clockFinding(off));
  } catch {
    findings.push({
      good: false,
      words: "No connection just now. Better wait for a steady one before you start.",
    });
  }
  findings.push(
    (await canKeepAnswers())
      ? { good: true, words: "Can keep answers if the network drops" }
      : {
          good: false,
          words:
            "Cannot keep answers on this device: with the network gone, new ones could be lost. Another browser window may do better.",
        },
  );
  return findings;
}

function clockFinding(off: number): Finding {
  if (Math.abs(off) < 5 * SECOND) return { good: true, words: "Its clock is right" };
  const size = Math.abs(off) < MINUTE ? Math.abs(off) : Math.round(Math.abs(off) / MINUTE) * MINUTE;
  return {
    good: false,
    words: `Its clock is ${lengthInWords(size)} ${off > 0 ? "fast" : "slow"}. The desk shows the right time.`,
  };
}

/** The state of this device, before a clock starts. */
export function DeviceCheck({ timed }: { readonly timed: boolean }) {
  const [findings, setFindings] = useState<readonly Finding[] | null>(null);
  useEffect(() => {
    let gone = false;
    // Before the clock starts there is time to keep what the desk needs.
    void setUpKeeping();
    examine().then((found) => !gone && setFindings(found));
    return () => {
      gone = true;
    };
  }, []);
  return (
    <section aria-labelledby="device">
      <h2 id="device" className="small font-bold">
        This device
      </h2>
      <ul className="mt-2 grid gap-2" aria-live="polite">
        {findings === null ? (
          <li className="text-ink-2">Looking at the connection, the clock and the memory …</li>
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
      {timed && (
        <p className="small mt-2">
          Take it where the connection is steady, and with enough battery. Should the connection drop all the
          same, write on: everything is kept on this device and sent when it is back.
        </p>
      )}
    </section>
  );
}
