import { type FormEvent, useEffect, useRef, useState } from "react";
import type { CalculatorAnswer, CalculatorQuestion } from "@/core/numbers/calculate";
import { type Said, said } from "@/core/said";
import { say, t } from "@/words/t";

interface Line {
  readonly id: number;
  readonly text: string;
  readonly result: string;
}

const PLAIN_KEYS = ["7", "8", "9", "÷", "4", "5", "6", "×", "1", "2", "3", "−", "0", ".", "( )", "+"];
const FURTHER_KEYS = ["√", "^", "π", "sin", "cos", "tan", "ln", "log10", "ans"];
const FUNCTIONS = ["√", "sin", "cos", "tan", "ln", "log10"];
const SPOKEN: Readonly<Record<string, Said>> = {
  "÷": said("desk.calculator.divided-by"),
  "×": said("desk.calculator.times"),
  "−": said("desk.calculator.minus"),
  "+": said("desk.calculator.plus"),
  "( )": said("desk.calculator.parentheses"),
  "√": said("desk.calculator.square-root"),
  "^": said("desk.calculator.to-the-power-of"),
  π: said("desk.calculator.pi"),
  sin: said("desk.calculator.sine"),
  cos: said("desk.calculator.cosine"),
  tan: said("desk.calculator.tangent"),
  log10: said("desk.calculator.logarithm-to-the-base-ten"),
  ln: said("desk.calculator.natural-logarithm"),
  ans: said("desk.calculator.the-last-result"),
};
const LINES = 12;

/** A calculation written in one line, and a paper tape of those before. The working out is done in a worker. */
export function Calculator({ level }: { readonly level: CalculatorQuestion["level"] }) {
  const [text, setText] = useState("");
  const [tape, setTape] = useState<readonly Line[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const field = useRef<HTMLInputElement>(null);
  const worker = useRef<Worker | null>(null);
  useEffect(() => {
    const made = new Worker(new URL("../../workers/calculator.ts", import.meta.url), { type: "module" });
    worker.current = made;
    return () => made.terminate();
  }, []);

  const workOut = (event: FormEvent) => {
    event.preventDefault();
    const asked = worker.current;
    if (!asked) return;
    const written = text;
    asked.onmessage = ({ data }: MessageEvent<CalculatorAnswer>) => {
      if (!data.ok) return setProblem(say(data.problem));
      setProblem(null);
      setText("");
      setTape((lines) =>
        [...lines, { id: (lines.at(-1)?.id ?? 0) + 1, text: written, result: say(data.words) }].slice(-LINES),
      );
    };
    asked.onerror = () => setProblem(t("desk.calculator.the-calculator-could-not-be-loaded"));
    asked.postMessage({ text: written, level } satisfies CalculatorQuestion);
  };
  const press = (key: string) => {
    const input = field.current;
    const from = input?.selectionStart ?? text.length;
    const to = input?.selectionEnd ?? from;
    const chosen = text.slice(from, to);
    const isFunction = FUNCTIONS.includes(key);
    const put = key === "( )" ? `(${chosen})` : isFunction ? `${key}(${chosen})` : key;
    const next = text.slice(0, from) + put + text.slice(to);
    setText(next);
    const inside = (key === "( )" || isFunction) && chosen === "" ? 1 : 0;
    requestAnimationFrame(() => {
      input?.focus();
      input?.setSelectionRange(from + put.length - inside, from + put.length - inside);
    });
  };
  /** Takes away what is marked, or the one sign before the place of writing. */
  const deleteLast = () => {
    const input = field.current;
    const [start, end] = [input?.selectionStart ?? text.length, input?.selectionEnd ?? text.length];
    const from = start === end ? Math.max(0, start - 1) : start;
    setText(text.slice(0, from) + text.slice(end));
    requestAnimationFrame(() => {
      input?.focus();
      input?.setSelectionRange(from, from);
    });
  };
  const keys = level === "scientific" ? [...PLAIN_KEYS, ...FURTHER_KEYS] : [...PLAIN_KEYS, "ans"];

  return (
    <form onSubmit={workOut} aria-label={t("desk.calculator.calculator")}>
      <ol
        className="min-h-24 border-b border-line font-read text-sm"
        aria-label={t("desk.calculator.tape")}
        aria-live="polite"
      >
        {tape.length === 0 && (
          <li className="small list-none pb-2 font-ui">{t("desk.calculator.what-you-work-out-stays-on")}</li>
        )}
        {tape.map((line) => (
          <li key={line.id} className="flex flex-wrap justify-end gap-x-2 py-1">
            <span className="text-ink-2">{line.text} =</span>
            <button
              type="button"
              className="min-h-6 font-bold"
              title={t("desk.calculator.use-this-result")}
              onClick={() => press(line.result.replace(/ × 10\^(-?\d+)/, "e$1"))}
            >
              {line.result}
            </button>
          </li>
        ))}
      </ol>
      <label className="mt-3 block">
        <span className="sr-only">{t("desk.calculator.calculation")}</span>
        <input
          ref={field}
          className="field font-read"
          value={text}
          onChange={(event) => setText(event.target.value)}
          placeholder="4.8 − 3 × 0.35"
          autoComplete="off"
          spellCheck={false}
          maxLength={200}
          aria-describedby="calculator-problem"
        />
      </label>
      <p id="calculator-problem" role="status" className="min-h-5 py-0.5 text-[0.8125rem] text-plum">
        {problem}
      </p>
      {level === "scientific" && <p className="small pb-1.5">{t("desk.calculator.angles-are-in-degrees")}</p>}
      <div className="grid grid-cols-4 gap-1.5">
        <button type="button" className="button col-span-2 px-1!" onClick={deleteLast}>
          {t("desk.calculator.delete-last")}
        </button>
        <button
          type="button"
          className="button col-span-2 px-1!"
          onClick={() => {
            setText("");
            setProblem(null);
            field.current?.focus();
          }}
        >
          {t("desk.calculator.clear")}
        </button>
        {keys.map((key) => (
          <button
            key={key}
            type="button"
            className="button px-1!"
            aria-label={say(SPOKEN[key])}
            onClick={() => press(key)}
          >
            {key}
          </button>
        ))}
        <button
          type="submit"
          className="button border-indigo text-indigo"
          style={{ gridColumn: `span ${4 - (keys.length % 4)}` }}
        >
          {t("desk.calculator.work-out")}
        </button>
      </div>
    </form>
  );
}
