import type { LucideIcon } from "lucide-react";
import { Toolbar as Tools } from "radix-ui";

/** Something that can be done with what is being written. */
export interface ToolDeed {
  readonly name: string;
  readonly icon: LucideIcon;
  /** Whether it holds where one writes; absent: it is no state. */
  readonly active?: boolean;
  readonly off?: boolean;
  readonly does: () => void;
}

interface ToolButtonsProps {
  readonly deeds: readonly ToolDeed[];
  /** Out of the way of Tab, which goes from text to text: they are reached by a key of their own. */
  readonly isApart?: boolean;
}

/** The buttons of a row of writing tools. */
export const ToolButtons = ({ deeds, isApart = false }: ToolButtonsProps) => (
  <>
    {deeds.map(({ name, icon: Icon, active, off, does }) => (
      <Tools.Button
        key={name}
        title={name}
        aria-label={name}
        aria-pressed={active}
        disabled={off}
        {...(isApart ? { tabIndex: -1, onMouseDown: (event) => event.preventDefault() } : {})}
        onClick={does}
        className={`grid place-items-center rounded-sm text-ink-2 disabled:text-ink-3/50 aria-pressed:text-ink ${isApart ? "size-8 hover:bg-sunk aria-pressed:bg-indigo-2" : "size-9 hover:bg-sheet max-sm:size-8 aria-pressed:bg-sheet"}`}
      >
        <Icon aria-hidden="true" className="size-4" />
      </Tools.Button>
    ))}
  </>
);
