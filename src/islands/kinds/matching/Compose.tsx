import type { Matching } from "@/core/kinds/matching/mark";
import { contentInWords } from "@/core/kinds/picks/content";
import { escaped } from "@/core/text/plain-text";
import { say, t } from "@/words/t";
import type { ComposeProps } from "../compose-props";
import { AddPicture, ContentWritten } from "../writing/ContentWritten";
import { AddButton, Choice, letterOf, Mistake, Tick } from "../writing/fields";
import { ItemRows } from "../writing/ItemRows";

import { stepNames } from "../writing/step-names";

const MOST_PROMPTS = 26;
const MOST_TARGETS = 40;

/** What is to be matched with what: prompts with their targets beside them, and targets that fit none. */
export function MatchingCompose(props: ComposeProps<Matching>) {
  const { question, slot, language, mistakes, newName, onChange } = props;
  const { prompts, targets } = question;
  const put = (change: Partial<Matching>, words: string, typedIn?: string) =>
    onChange({ ...question, ...change }, words, typedIn);
  const promptName = (_: unknown, place: number) => t("compose.matching.prompt", { nth: place + 1 });
  const targetName = (_: unknown, place: number) => t("compose.matching.target", { letter: letterOf(place) });
  const addPair = () => {
    const target = newName("t");
    put(
      {
        prompts: [...prompts, { id: newName("p"), text: "", target }],
        targets: [...targets, { id: target, text: "" }],
      },
      stepNames.added(),
    );
  };
  const pastePairs = (place: number) => (rows: readonly (readonly string[])[]) => {
    const pairs = rows.filter(([left = ""]) => left !== "");
    if (!pairs.some(([, right = ""]) => right !== "")) return false;
    const made = pairs.slice(0, MOST_PROMPTS - place).map(([left = "", right = ""], i) => {
      const prompt = prompts[place + i];
      const target = prompt?.target ?? newName("t");
      return {
        prompt: { ...(prompt ?? { id: newName("p") }), text: escaped(left), target },
        target: { id: target, text: escaped(right) },
      };
    });
    const known = new Map(targets.map((each) => [each.id, each]));
    for (const { target } of made) known.set(target.id, { ...known.get(target.id), ...target });
    put(
      {
        prompts: [
          ...prompts.slice(0, place),
          ...made.map(({ prompt }) => prompt),
          ...prompts.slice(place + made.length).filter(({ text }) => text !== ""),
        ],
        targets: [...known.values()].slice(0, MOST_TARGETS),
      },
      stepNames.pasted(),
    );
    return true;
  };
  return (
    <>
      <h3 className="label">{t("compose.matching.prompts")}</h3>
      <ItemRows
        items={prompts}
        nameOf={promptName}
        least={2}
        onMove={(next) => put({ prompts: next }, stepNames.moved())}
        onRemove={({ id }) => put({ prompts: prompts.filter((each) => each.id !== id) }, stepNames.removed())}
      >
        {(prompt, place) => {
          const set = (next: Matching["prompts"][number], words: string, typedIn?: string) =>
            put({ prompts: prompts.map((each) => (each.id === prompt.id ? next : each)) }, words, typedIn);
          return (
            <div className="flex flex-wrap items-start gap-x-4 gap-y-1">
              <div className="min-w-48 flex-1 pt-1">
                <ContentWritten
                  content={prompt}
                  name={promptName(prompt, place)}
                  placeholder={t("compose.matching.what-is-to-be-matched")}
                  language={language}
                  mistake={mistakes.get(`prompts[${place}].text`) ?? mistakes.get(`prompts[${place}]`)}
                  onChange={(next, isTyped) =>
                    set(
                      next,
                      isTyped ? stepNames.typing() : stepNames.picture(),
                      isTyped ? `piece-${slot} ${prompt.id}` : undefined,
                    )
                  }
                  onRows={pastePairs(place)}
                />
                <AddPicture
                  content={prompt}
                  name={promptName(prompt, place)}
                  onChange={(next) => set(next, stepNames.picture())}
                />
              </div>
              <Choice
                label={t("compose.matching.its-match", { nth: place + 1 })}
                isQuiet
                value={prompt.target}
                mistake={mistakes.get(`prompts[${place}].target`)}
                options={targets.map((each, i) => ({
                  value: each.id,
                  words: t("compose.matching.letter-and-words", {
                    letter: letterOf(i),
                    words: say(contentInWords(each)) || "…",
                  }),
                }))}
                onChange={(target) => set({ ...prompt, target }, stepNames.key())}
              />
            </div>
          );
        }}
      </ItemRows>
      <Mistake words={mistakes.get("prompts") ?? mistakes.get("")} />
      {prompts.length < MOST_PROMPTS && targets.length < MOST_TARGETS && (
        <AddButton words={t("compose.matching.add-a-pair")} onAdd={addPair} />
      )}
      <h3 className="label mt-5">{t("compose.matching.targets")}</h3>
      <ItemRows
        items={targets}
        nameOf={targetName}
        least={2}
        onMove={(next) => put({ targets: next }, stepNames.moved())}
        onRemove={({ id }) => put({ targets: targets.filter((each) => each.id !== id) }, stepNames.removed())}
      >
        {(target, place) => {
          const set = (next: Matching["targets"][number], isTyped: boolean) =>
            put(
              { targets: targets.map((each) => (each.id === target.id ? next : each)) },
              isTyped ? stepNames.typing() : stepNames.picture(),
              isTyped ? `piece-${slot} ${target.id}` : undefined,
            );
          const isUsed = prompts.some((each) => each.target === target.id);
          return (
            <div className="flex items-start gap-3">
              <span className="w-5 pt-1 text-sm text-ink-2" aria-hidden="true">
                {letterOf(place)}
              </span>
              <div className="min-w-0 flex-1 pt-1">
                <ContentWritten
                  content={target}
                  name={targetName(target, place)}
                  placeholder={t("compose.matching.what-it-is-matched-with")}
                  language={language}
                  mistake={mistakes.get(`targets[${place}].text`) ?? mistakes.get(`targets[${place}]`)}
                  onChange={set}
                />
                {!isUsed && <p className="small">{t("compose.matching.fits-none")}</p>}
                <AddPicture
                  content={target}
                  name={targetName(target, place)}
                  onChange={(next) => set(next, false)}
                />
              </div>
            </div>
          );
        }}
      </ItemRows>
      <Mistake words={mistakes.get("targets")} />
      {targets.length < MOST_TARGETS && (
        <AddButton
          words={t("compose.matching.add-a-target")}
          onAdd={() => put({ targets: [...targets, { id: newName("t"), text: "" }] }, stepNames.added())}
        />
      )}
      <div className="mt-4 grid gap-2">
        <Tick
          label={t("compose.matching.each-once")}
          checked={question.once ?? false}
          onChange={(once) => onChange(withFlag(question, "once", once), stepNames.scoring())}
        />
        <Tick
          label={t("compose.matching.keep-the-prompts")}
          checked={question.keepOrder ?? false}
          onChange={(keepOrder) => onChange(withFlag(question, "keepOrder", keepOrder), stepNames.moved())}
        />
      </div>
    </>
  );
}

const withFlag = (question: Matching, flag: "once" | "keepOrder", holds: boolean): Matching => {
  const { [flag]: _, ...rest } = question;
  return holds ? { ...rest, [flag]: true } : rest;
};
