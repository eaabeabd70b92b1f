import { join } from "node:path";
import { bundle, load } from "./lib/bundle.mjs";
import { ensurePackages, HOME, main, ROOT, say } from "./lib/steps.mjs";

/**
 * How many attempts are marked in a second, on one core: 1,000 attempts at a quiz of 40 questions of every kind that marks
 * itself, each with its own seed, every second answer right. Once cold, then warm.
 */
const ATTEMPTS = 1_000;
const QUESTIONS = 40;
const ROUNDS = 4;

await main(async () => {
  await ensurePackages();
  const core = await coreWithQuiz();
  const quiz = core.quizOf(QUESTIONS);
  const attempts = Array.from({ length: ATTEMPTS }, (_, i) => core.attemptAt(quiz, `seed ${i}`));
  for (let round = 1; round <= ROUNDS; round += 1) {
    const started = performance.now();
    for (const { seed, work } of attempts) core.markAttempt(quiz, seed, work);
    const seconds = (performance.now() - started) / 1_000;
    say(
      `${round === 1 ? "cold" : "warm"}: ${ATTEMPTS} attempts of ${QUESTIONS} questions in ${seconds.toFixed(2)} s, ${(ATTEMPTS / seconds).toFixed(0)} attempts a second`,
    );
  }
});

/** The core with a quiz made of the example's questions, over and over. */
async function coreWithQuiz() {
  const outfile = join(HOME, "bench/marking.mjs");
  await bundle(outfile, {
    stdin: {
      resolveDir: ROOT,
      loader: "ts",
      contents: `
        import example from "./docs/examples/every-kind.json";
        import { planAttempt } from "@/core/attempt/plan";
        import { rightAnswerTo } from "@/core/kinds/marking";
        import { openSeed } from "@/core/numbers/seeded";
        export { markAttempt } from "@/core/marking/mark-attempt";
        export function quizOf(count) {
          const questions = example.sections[0].questions;
          return { ...example, sections: [{ questions: Array.from({ length: count }, (_, i) => {
            const question = questions[i % questions.length];
            return { ...question, id: question.id + "-" + i };
          }) }] };
        }
        export function attemptAt(quiz, text) {
          const seed = openSeed(text);
          const work = new Map(planAttempt(quiz, seed).flatMap(({ slot, question }) =>
            slot % 2 === 0 ? [[slot, { answer: rightAnswerTo(question, seed) }]] : []));
          return { seed, work };
        }`,
    },
  });
  return load(outfile);
}
