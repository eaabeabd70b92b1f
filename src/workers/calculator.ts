import { type CalculatorAnswer, type CalculatorQuestion, calculate } from "@/core/numbers/calculate";
import type { Exact } from "@/core/numbers/exact";

let ans: Exact | null = null;

addEventListener("message", ({ data }: MessageEvent<CalculatorQuestion>) => {
  const result = calculate(data.text, data.level, ans);
  if (result.ok) ans = result.value;
  const answer: CalculatorAnswer = result.ok ? { ok: true, words: result.words } : result;
  postMessage(answer);
});
