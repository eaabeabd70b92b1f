import { type KeyboardEvent, type RefObject, useId, useLayoutEffect, useRef, useState } from "react";
import type { RemarkLine } from "@/core/desk/room-view";
import { t } from "@/words/t";

interface RemarkFieldProps {
  readonly label: string;
  readonly hidesLabel?: boolean;
  readonly value: string;
  readonly placeholder?: string;
  readonly disabled?: boolean;
  readonly rows?: number;
  readonly remarks: readonly RemarkLine[];
  readonly onChange: (value: string) => void;
  readonly onUsed: (remark: RemarkLine) => void;
  readonly onLeave?: () => void;
  readonly fieldRef?: RefObject<HTMLTextAreaElement | null>;
  readonly name?: string;
}

const MOST_SHOWN = 6;

/** What is being asked for with a stroke, before the cursor: "/ca" asks for "ca". Null: nothing. */
export function askedFor(
  value: string,
  cursor: number,
): { readonly from: number; readonly letters: string } | null {
  const found = /(?:^|\s)\/([\p{L}\p{N}-]{0,20})$/u.exec(value.slice(0, cursor));
  const letters = found?.[1];
  return letters === undefined ? null : { from: cursor - letters.length - 1, letters: letters.toLowerCase() };
}

/** The remarks whose short name begins with some letters, then those that hold them. */
export function remarksFor(remarks: readonly RemarkLine[], letters: string): RemarkLine[] {
  const begins = remarks.filter(({ short }) => short.toLowerCase().startsWith(letters));
  const holds = remarks.filter((each) => !begins.includes(each) && each.text.toLowerCase().includes(letters));
  return [...begins, ...(letters.length > 1 ? holds : [])].slice(0, MOST_SHOWN);
}

/** A field for what is said to a student: a stroke and a few letters bring in a remark. */
export function RemarkField(props: RemarkFieldProps) {
  const { label, value, remarks, disabled = false, rows = 2, onChange, onUsed } = props;
  const id = useId();
  const own = useRef<HTMLTextAreaElement>(null);
  const field = props.fieldRef ?? own;
  const [cursor, setCursor] = useState<number | null>(null);
  const [at, setAt] = useState(0);
  const asked = cursor === null || disabled ? null : askedFor(value, cursor);
  const offered = asked ? remarksFor(remarks, asked.letters) : [];
  const chosen = Math.min(at, offered.length - 1);
  useLayoutEffect(() => {
    const area = field.current;
    if (!area) return;
    // The field is as high as what stands in it; a field of nothing keeps its rows.
    area.style.height = "auto";
    if (value !== "") area.style.height = `${area.scrollHeight + 2}px`;
  }, [value, field]);
  const bringIn = (remark: RemarkLine) => {
    if (!asked || cursor === null) return;
    const next = `${value.slice(0, asked.from)}${remark.text}${value.slice(cursor)}`;
    onChange(next);
    onUsed(remark);
    const end = asked.from + remark.text.length;
    setCursor(null);
    requestAnimationFrame(() => field.current?.setSelectionRange(end, end));
  };
  const press = (event: KeyboardEvent) => {
    if (offered.length === 0) {
      if (event.key === "Escape") field.current?.blur();
      return;
    }
    if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      setAt((chosen + (event.key === "ArrowDown" ? 1 : offered.length - 1)) % offered.length);
    } else if (event.key === "Enter" || event.key === "Tab") {
      event.preventDefault();
      const remark = offered[chosen];
      if (remark) bringIn(remark);
    } else if (event.key === "Escape") {
      event.preventDefault();
      setCursor(null);
    }
  };
  return (
    <div className="relative">
      <label htmlFor={id} className={props.hidesLabel ? "sr-only" : "label mb-2 block"}>
        {label}
      </label>
      <textarea
        id={id}
        ref={field}
        name={props.name}
        className="field w-full resize-none leading-snug disabled:bg-sunk"
        rows={rows}
        value={value}
        placeholder={props.placeholder}
        disabled={disabled}
        maxLength={4_000}
        aria-controls={`${id}-remarks`}
        aria-autocomplete="list"
        aria-activedescendant={offered.length > 0 ? `${id}-${chosen}` : undefined}
        onChange={(event) => {
          onChange(event.target.value);
          setCursor(event.target.selectionStart);
          setAt(0);
        }}
        onKeyDown={press}
        onClick={(event) => setCursor(event.currentTarget.selectionStart)}
        onBlur={() => {
          setCursor(null);
          props.onLeave?.();
        }}
      />
      <div
        id={`${id}-remarks`}
        role="listbox"
        aria-label={t("marking.remark-field.remarks")}
        className={
          offered.length > 0
            ? "sheet absolute inset-x-0 top-full z-20 mt-1 overflow-hidden shadow-md"
            : "hidden"
        }
      >
        {offered.map((remark, i) => (
          <div
            key={remark.id}
            id={`${id}-${i}`}
            role="option"
            tabIndex={-1}
            aria-selected={i === chosen}
            className="cursor-pointer border-b border-line px-3 py-2 text-sm last:border-0 aria-selected:bg-indigo-2"
            onPointerDown={(event) => {
              event.preventDefault();
              bringIn(remark);
            }}
          >
            <b>/{remark.short}</b> {remark.text}{" "}
            <span className="small whitespace-nowrap">
              {remark.own
                ? t("marking.remark-field.used-times", { used: remark.used })
                : t("marking.remark-field.of", { author: remark.author })}
            </span>
          </div>
        ))}
      </div>
    </div>
  );
}
