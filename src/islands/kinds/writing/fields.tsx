import { type ReactNode, useId, useState } from "react";
import { t } from "@/words/t";

interface FieldProps {
  readonly label: string;
  readonly value: string;
  readonly mistake?: string | undefined;
  readonly placeholder?: string;
  readonly className?: string;
  /** The label is only said, not shown. */
  readonly isQuiet?: boolean;
  /** Shown in the place of the label, where its place says the rest. */
  readonly shortLabel?: string;
  readonly inputMode?: "text" | "decimal" | "numeric";
  readonly maxLength?: number;
  readonly language?: string | undefined;
  readonly onChange: (value: string) => void;
  readonly onEnter?: () => void;
}

/** A short text of the author: plain, in one line. */
export function PlainField(props: FieldProps) {
  const { label, value, mistake, className = "", isQuiet = false } = props;
  const id = useId();
  const problem = `${id}-problem`;
  const isHidden = isQuiet || props.shortLabel !== undefined;
  return (
    <div
      className={`grid content-start gap-1 ${className}`}
      data-mistake={mistake !== undefined || undefined}
    >
      {props.shortLabel !== undefined && (
        <span className="label whitespace-nowrap" aria-hidden="true">
          {props.shortLabel}
        </span>
      )}
      <label htmlFor={id} className={isHidden ? "sr-only" : "label"}>
        {label}
      </label>
      <input
        id={id}
        className={`field min-h-9 py-1 ${mistake === undefined ? "" : "border-plum"}`}
        value={value}
        lang={props.language}
        inputMode={props.inputMode ?? "text"}
        placeholder={props.placeholder ?? ""}
        maxLength={props.maxLength ?? 500}
        autoComplete="off"
        spellCheck={props.inputMode === undefined}
        aria-invalid={mistake !== undefined}
        aria-describedby={mistake === undefined ? undefined : problem}
        onChange={({ target }) => {
          // Where only a whole number can stand, nothing else is taken, and nothing is lost by it.
          if (props.inputMode !== "numeric" || /^\d*$/.test(target.value)) props.onChange(target.value);
        }}
        onKeyDown={(event) => {
          if (event.key === "Enter" && props.onEnter) {
            event.preventDefault();
            props.onEnter();
          }
        }}
      />
      {mistake !== undefined && (
        <span id={problem} className="text-sm text-plum">
          {mistake}
        </span>
      )}
    </div>
  );
}

/** A short text that is taken when its field is left, or by Enter: half of it would be something else. */
export function LaterField(props: FieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const take = () => {
    if (typed !== null && typed !== props.value) props.onChange(typed);
    setTyped(null);
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the field within it is left
    <span onBlur={take}>
      <PlainField {...props} value={typed ?? props.value} onChange={setTyped} onEnter={take} />
    </span>
  );
}

/**
 * A number as an author types it: a number where it is one that a file can hold as such, or else the text, which may be a
 * fraction, or not right yet.
 * @example numberOrText("2.5") → 2.5
 */
export const numberOrText = (text: string): number | string => {
  const plain = text.trim().replace(",", ".");
  return /^-?\d{1,12}(\.\d{1,6})?$/.test(plain) && String(Number(plain)) === plain
    ? Number(plain)
    : text.trim();
};

/** A whole number, or nothing where the field is empty or holds none. */
export const wholeOrNone = (text: string): number | undefined =>
  /^\d{1,6}$/.test(text.trim()) ? Number(text) : undefined;

interface TickProps {
  readonly label: string;
  readonly checked: boolean;
  readonly hint?: string;
  readonly disabled?: boolean;
  readonly onChange: (checked: boolean) => void;
}

/** Something that holds, or does not. */
export const Tick = ({ label, checked, hint, disabled = false, onChange }: TickProps) => (
  <label className="flex min-h-6 items-baseline gap-2.5">
    <input
      type="checkbox"
      className="relative top-0.5 size-[18px] shrink-0 accent-indigo"
      checked={checked}
      disabled={disabled}
      onChange={({ target }) => onChange(target.checked)}
    />
    <span>
      {label}
      {hint && <span className="small block">{hint}</span>}
    </span>
  </label>
);

interface ChoiceProps<V extends string> {
  readonly label: string;
  readonly value: V;
  readonly options: readonly { readonly value: V; readonly words: string }[];
  readonly isQuiet?: boolean;
  readonly className?: string;
  readonly mistake?: string | undefined;
  readonly onChange: (value: V) => void;
}

/** One of a few. */
export function Choice<V extends string>(props: ChoiceProps<V>) {
  const { label, value, options, isQuiet = false, className = "", mistake } = props;
  const id = useId();
  return (
    <div
      className={`grid content-start gap-1 ${className}`}
      data-mistake={mistake !== undefined || undefined}
    >
      <label htmlFor={id} className={isQuiet ? "sr-only" : "label"}>
        {label}
      </label>
      <select
        id={id}
        aria-describedby={mistake === undefined ? undefined : `${id}-problem`}
        className="field min-h-9 w-auto max-w-full justify-self-start py-1"
        value={value}
        aria-invalid={mistake !== undefined}
        onChange={({ target }) => props.onChange(target.value as V)}
      >
        {options.map((each) => (
          <option key={each.value} value={each.value}>
            {each.words}
          </option>
        ))}
      </select>
      {mistake !== undefined && (
        <span id={`${id}-problem`} className="text-sm text-plum">
          {mistake}
        </span>
      )}
    </div>
  );
}

/** What is less often wanted of a question: below it, and folded until it is. */
export const Further = ({
  title,
  children,
  isOpen = false,
}: {
  readonly title: string;
  readonly children: ReactNode;
  readonly isOpen?: boolean;
}) => (
  <details className="mt-4 border-t border-line pt-2" open={isOpen || undefined}>
    <summary className="label min-h-6 cursor-pointer py-1">{title}</summary>
    <div className="mt-2 grid gap-3">{children}</div>
  </details>
);

/** A mistake of something that has no field of its own. */
export const Mistake = ({ words }: { readonly words: string | undefined }) =>
  words === undefined ? null : (
    <p className="mt-1 text-sm text-plum" data-mistake>
      {words}
    </p>
  );

/** The letter of a row, as at the desk: A, B, C. */
export const letterOf = (place: number): string => String.fromCharCode(65 + place);

/** Adds one more of something. */
export const AddButton = ({ words, onAdd }: { readonly words: string; readonly onAdd: () => void }) => (
  <button type="button" className="button mt-2 min-h-9! py-1!" onClick={onAdd}>
    <span aria-hidden="true">+</span> {words}
  </button>
);

/** What an author typed of a share or a number, as text for its field. */
export const textOf = (value: number | string | undefined): string =>
  value === undefined ? "" : String(value);

export const removeWords = (what: string): string => t("compose.fields.remove", { what });
