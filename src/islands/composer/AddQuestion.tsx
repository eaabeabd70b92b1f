import { DropdownMenu } from "radix-ui";
import { t } from "@/words/t";
import type { DraftDeeds } from "./draft-deeds";
import { kindNames } from "./kind-names";

interface AddQuestionProps {
  readonly deeds: DraftDeeds;
  readonly onPaste: () => void;
  readonly onAsText: () => void;
  readonly onFromBank: () => void;
}

/** Adds a question of one of the kinds, a section, or what was copied elsewhere. */
export function AddQuestion({ deeds, onPaste, onAsText, onFromBank }: AddQuestionProps) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="button w-full justify-center">
        {t("composer.add-question.add-a-question")}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          side="top"
          sideOffset={6}
          collisionPadding={8}
          className="sheet z-40 max-h-[80vh] w-[22rem] max-w-[92vw] overflow-y-auto p-1"
          // The new question takes the focus, not the button.
          onCloseAutoFocus={(event) => event.preventDefault()}
        >
          {kindNames().map(({ kind, name, hint }) => (
            <DropdownMenu.Item
              key={kind}
              className="cursor-pointer rounded-sm px-3 py-1.5 outline-none data-[highlighted]:bg-indigo-2"
              onSelect={() => deeds.add(kind)}
            >
              <b className="block font-bold">{name}</b>
              <span className="small">{hint}</span>
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Separator className="my-1 border-t border-line" />
          <DropdownMenu.Item
            className="cursor-pointer rounded-sm px-3 py-1.5 outline-none data-[highlighted]:bg-indigo-2"
            onSelect={() => deeds.addSection()}
          >
            {t("composer.add-question.a-section")}
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className="cursor-pointer rounded-sm px-3 py-1.5 outline-none data-[highlighted]:bg-indigo-2"
            onSelect={onFromBank}
          >
            {t("composer.add-question.from-the-bank")}
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className="cursor-pointer rounded-sm px-3 py-1.5 outline-none data-[highlighted]:bg-indigo-2"
            onSelect={onPaste}
          >
            {t("composer.add-question.what-was-copied")}
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className="cursor-pointer rounded-sm px-3 py-1.5 outline-none data-[highlighted]:bg-indigo-2"
            onSelect={onAsText}
          >
            {t("composer.add-question.as-text")}
            <span className="small block">{t("composer.add-question.as-text-hint")}</span>
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
