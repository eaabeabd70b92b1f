import { AlertDialog } from "radix-ui";
import type { ReactNode } from "react";
import { t } from "@/words/t";

interface ConfirmProps {
  readonly open: boolean;
  readonly onOpenChange: (open: boolean) => void;
  readonly title: string;
  readonly children: ReactNode;
  readonly yes: string;
  readonly no: string;
  readonly busy?: boolean;
  /** Said in place when the deed was refused. */
  readonly problem?: string | null;
  readonly onYes: () => void;
}

/** Asks once before something that cannot be undone. */
export function Confirm({
  open,
  onOpenChange,
  title,
  children,
  yes,
  no,
  busy = false,
  problem = null,
  onYes,
}: ConfirmProps) {
  return (
    <AlertDialog.Root open={open} onOpenChange={onOpenChange}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="veil" />
        <AlertDialog.Content className="sheet dialog">
          <AlertDialog.Title className="font-read text-xl font-medium">{title}</AlertDialog.Title>
          <AlertDialog.Description asChild>
            <div className="mt-3 grid gap-2">{children}</div>
          </AlertDialog.Description>
          {problem && (
            <p role="alert" className="mt-4 border-l-[3px] border-plum bg-plum-2 px-3 py-2 text-plum">
              {problem}
            </p>
          )}
          <div className="mt-6 flex flex-wrap justify-end gap-3">
            <AlertDialog.Cancel className="button" disabled={busy}>
              {no}
            </AlertDialog.Cancel>
            <button type="button" className="button button-main" disabled={busy} onClick={onYes}>
              {busy ? t("ui.confirm.one-moment") : yes}
            </button>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
