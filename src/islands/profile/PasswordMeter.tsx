import { useEffect, useState } from "react";
import { said } from "@/core/said";
import { lettersBeside, SHORTEST_PASSWORD, WEAKEST, wordsAbout } from "@/core/text/password-rule";
import { t } from "@/words/t";

interface PasswordMeterProps {
  readonly name: string;
  readonly email: string;
  readonly institution: string;
}

type Estimate = (password: string, words: readonly string[]) => number;

/** The lists of what is tried first are large, and wanted only by whoever changes a password. */
async function loadEstimate(): Promise<Estimate> {
  const [{ ZxcvbnFactory }, { adjacencyGraphs, dictionary }] = await Promise.all([
    import("@zxcvbn-ts/core"),
    import("@zxcvbn-ts/language-common"),
  ]);
  const estimate = new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs });
  return (password, words) => estimate.check(password, [...words]).score;
}

const WORDS = [
  said("profile.password-meter.is-tried-first"),
  said("profile.password-meter.is-tried-first"),
  said("profile.password-meter.is-soon-guessed"),
  said("profile.password-meter.is-good"),
  said("profile.password-meter.is-very-good"),
] as const;

/** Says how good the new password is while it is written. The password stays in the browser. */
export function PasswordMeter(person: PasswordMeterProps) {
  const [password, setPassword] = useState("");
  const [estimate, setEstimate] = useState<{ readonly of: Estimate } | null>(null);
  useEffect(() => {
    const field = document.querySelector<HTMLInputElement>("input[name=next]");
    const typed = () => setPassword(field?.value ?? "");
    const wanted = () => void loadEstimate().then((of) => setEstimate({ of }));
    field?.addEventListener("input", typed);
    field?.addEventListener("focus", wanted, { once: true });
    typed();
    return () => field?.removeEventListener("input", typed);
  }, []);
  const words = wordsAbout(person);
  const left = SHORTEST_PASSWORD - [...password].length;
  const isAboutPerson = password !== "" && lettersBeside(password, words) < 6;
  const score = password === "" || !estimate ? null : estimate.of(password, words);
  const says =
    password === ""
      ? ""
      : left > 0
        ? t("profile.password-meter.more-other", { left })
        : isAboutPerson
          ? t("profile.password-meter.it-is-made-of-your-name")
          : score === null
            ? ""
            : t("profile.password-meter.it", { quality: WORDS[score] ?? "" });
  const isGood = left <= 0 && !isAboutPerson && score !== null && score >= WEAKEST;
  return (
    <p className="small flex items-center gap-3">
      <meter
        aria-label={t("profile.password-meter.how-good-the-new-password-is")}
        className="h-2 w-32"
        min={0}
        max={4}
        low={WEAKEST}
        high={WEAKEST}
        optimum={4}
        value={left > 0 || isAboutPerson ? Math.min(score ?? 0, 1) : (score ?? 0)}
      />
      <span aria-live="polite" className={isGood ? "text-moss" : ""}>
        {says}
      </span>
    </p>
  );
}
