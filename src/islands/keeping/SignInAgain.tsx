import { Dialog } from "radix-ui";
import { type FormEvent, useState } from "react";
import { refusalOr } from "@/ui/requests";
import { t } from "@/words/t";

interface SignInAgainProps {
  readonly email: string;
  /** @throws Refusal with a sentence */
  readonly signIn: (password: string) => Promise<void>;
  readonly open: boolean;
  readonly onOpenChange: (open: boolean) => void;
}

/** Signs in again where one is; what is on the screen stays as it stands. */
export function SignInAgain({ email, signIn: trySignIn, open, onOpenChange }: SignInAgainProps) {
  const [password, setPassword] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const signIn = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    try {
      await trySignIn(password);
      setPassword("");
      setProblem(null);
      onOpenChange(false);
    } catch (error) {
      setProblem(refusalOr(error, t("keeping.sign-in-again.the-server-cannot-be-reached-just")));
    }
    setBusy(false);
  };
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="veil" />
        <Dialog.Content className="sheet dialog max-w-[26rem]">
          <Dialog.Title className="font-read text-xl font-medium">
            {t("keeping.sign-in-again.sign-in-again")}
          </Dialog.Title>
          <Dialog.Description className="mt-2">
            {t("keeping.sign-in-again.your-session-ended-everything-you-wrote")}
          </Dialog.Description>
          <form className="mt-4 grid gap-4" onSubmit={signIn}>
            <p className="small">{email}</p>
            <input type="hidden" autoComplete="username" value={email} readOnly />
            <label className="grid gap-1.5 font-bold">
              {t("keeping.sign-in-again.password")}
              <input
                className="field font-normal"
                type="password"
                autoComplete="current-password"
                value={password}
                onChange={(event) => setPassword(event.target.value)}
                required
                aria-describedby={problem ? "sign-in-problem" : undefined}
              />
            </label>
            {problem && (
              <p
                id="sign-in-problem"
                role="alert"
                className="border-l-[3px] border-plum bg-plum-2 px-3 py-2 text-plum"
              >
                {problem}
              </p>
            )}
            <div className="flex justify-end gap-3">
              <Dialog.Close className="button">{t("keeping.sign-in-again.not-now")}</Dialog.Close>
              <button type="submit" className="button button-main" disabled={busy}>
                {busy ? t("ui.confirm.one-moment") : t("keeping.sign-in-again.sign-in")}
              </button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
