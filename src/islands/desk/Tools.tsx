import { X } from "lucide-react";
import { Tabs } from "radix-ui";
import { lazy, Suspense, useEffect, useState } from "react";
import { isStrong } from "@/core/brief/phrases";
import type { DeskView } from "@/core/desk/desk-view";
import { say, t } from "@/words/t";
import type { ViewSettings } from "./use-view-settings";
import { ViewChoices } from "./ViewChoices";

/** Loaded when it is taken out. */
const Calculator = lazy(() => import("./Calculator").then((module) => ({ default: module.Calculator })));

export type Tool = "reference" | "calculator" | "brief" | "view";

interface ToolsProps {
  readonly view: DeskView;
  readonly tool: Tool;
  readonly settings: ViewSettings;
  readonly onTool: (tool: Tool) => void;
  readonly onSettings: (change: Partial<ViewSettings>) => void;
  readonly onClose: () => void;
  readonly shown: boolean;
}

/** The tools that this quiz has at hand. */
export const toolsOf = (view: DeskView): readonly (readonly [Tool, string])[] => [
  ...(view.reference ? ([["reference", t("desk.tools.reference")]] as const) : []),
  ...(view.calculator === "none" ? [] : ([["calculator", t("desk.calculator.calculator")]] as const)),
  ["brief", t("desk.tools.brief")],
  ["view", t("desk.tools.view")],
];

/** The right margin: the reference sheet, the calculator, the brief and how the desk is looked at; it can be put away. */
export function Tools({ view, tool, shown, settings, onTool, onSettings, onClose }: ToolsProps) {
  const tab =
    "button button-quiet px-1.5! text-[0.8125rem] data-[state=active]:border-line-2 data-[state=active]:bg-sheet data-[state=inactive]:text-ink-2";
  const [taken, setTaken] = useState(false);
  useEffect(() => {
    if (tool === "calculator" && shown) setTaken(true);
  }, [tool, shown]);
  return (
    <aside
      id="tools"
      hidden={!shown}
      aria-label={t("desk.tools.beside-the-question")}
      className="border-line bg-margin px-4 py-5 max-lg:border-t lg:w-[21.5rem] lg:shrink-0 lg:overflow-y-auto lg:border-l"
    >
      <Tabs.Root value={tool} onValueChange={(value) => onTool(value as Tool)}>
        <div className="flex items-start justify-between gap-1">
          <Tabs.List
            aria-label={t("desk.tools.beside-the-question")}
            className="flex flex-wrap gap-x-0.5 gap-y-1"
          >
            {toolsOf(view).map(([name, title]) => (
              <Tabs.Trigger key={name} value={name} className={tab}>
                {title}
              </Tabs.Trigger>
            ))}
          </Tabs.List>
          <button
            type="button"
            className="button button-quiet px-2!"
            aria-label={t("desk.tools.put-the-tools-away")}
            title={t("desk.tools.put-the-tools-away")}
            onClick={onClose}
          >
            <X aria-hidden="true" className="size-4" />
          </button>
        </div>
        {view.reference && (
          <Tabs.Content value="reference" className="reading mt-4">
            {/* biome-ignore lint/security/noDangerouslySetInnerHtml: sanitised when the quiz was taken in */}
            <div lang={view.language} dangerouslySetInnerHTML={{ __html: view.reference }} />
          </Tabs.Content>
        )}
        {view.calculator !== "none" && (
          // It stays on the desk while another tool is read, so that its tape is not lost.
          <Tabs.Content value="calculator" className="mt-4 data-[state=inactive]:hidden" forceMount>
            {taken && (
              <Suspense fallback={<p className="small">{t("desk.tools.loading-the-calculator")}</p>}>
                <Calculator level={view.calculator} />
              </Suspense>
            )}
          </Tabs.Content>
        )}
        <Tabs.Content value="brief" className="mt-4">
          {view.brief && (
            // biome-ignore lint/security/noDangerouslySetInnerHtml: sanitised when the quiz was taken in
            <div lang={view.language} className="reading" dangerouslySetInnerHTML={{ __html: view.brief }} />
          )}
          <dl className="mt-4 border-t border-line text-sm">
            {view.rules.map((rule) => (
              <div key={JSON.stringify(rule.name)} className="border-b border-line py-2">
                <dt className="small">{say(rule.name)}</dt>
                <dd>
                  {rule.text.map((phrase) =>
                    isStrong(phrase) ? <b key={JSON.stringify(phrase)}>{say(phrase.strong)}</b> : say(phrase),
                  )}
                </dd>
              </div>
            ))}
          </dl>
        </Tabs.Content>
        <Tabs.Content value="view" className="mt-4 grid gap-5">
          <ViewChoices settings={settings} onChange={onSettings} />
          <p className="small">
            <a className="inline-block py-1 underline" href="/help/desk" target="_blank" rel="noopener">
              {t("desk.tools.what-is-on-the-desk")}
            </a>{" "}
            {t("desk.tools.explains-each-thing-once-in-a")}
          </p>
        </Tabs.Content>
      </Tabs.Root>
    </aside>
  );
}
