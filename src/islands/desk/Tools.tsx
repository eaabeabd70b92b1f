import { Tabs } from "radix-ui";
import type { DeskView } from "@/core/attempt/desk-view";

interface ToolsProps {
  readonly view: DeskView;
  readonly onClose: () => void;
}

/** The right margin: the reference sheet and the brief, at hand and foldable. */
export function Tools({ view, onClose }: ToolsProps) {
  const tab =
    "button button-quiet data-[state=active]:border-line-2 data-[state=active]:bg-sheet data-[state=inactive]:text-ink-2";
  return (
    <aside
      aria-label="Reference and brief"
      className="border-line bg-margin px-4 py-5 max-lg:border-t lg:w-[18.75rem] lg:shrink-0 lg:overflow-y-auto lg:border-l lg:px-5"
    >
      <Tabs.Root defaultValue={view.reference ? "reference" : "brief"}>
        <div className="flex items-center justify-between">
          <Tabs.List aria-label="Beside the question" className="flex gap-1">
            {view.reference && (
              <Tabs.Trigger value="reference" className={tab}>
                Reference
              </Tabs.Trigger>
            )}
            <Tabs.Trigger value="brief" className={tab}>
              Brief
            </Tabs.Trigger>
          </Tabs.List>
          <button type="button" className="button button-quiet" onClick={onClose}>
            Fold away
          </button>
        </div>
        {view.reference && (
          <Tabs.Content value="reference" className="reading mt-4">
            {/* biome-ignore lint/security/noDangerouslySetInnerHtml: sanitised when the quiz was taken in */}
            <div dangerouslySetInnerHTML={{ __html: view.reference }} />
          </Tabs.Content>
        )}
        <Tabs.Content value="brief" className="mt-4">
          {view.brief && (
            // biome-ignore lint/security/noDangerouslySetInnerHtml: sanitised when the quiz was taken in
            <div className="reading" dangerouslySetInnerHTML={{ __html: view.brief }} />
          )}
          <dl className="mt-4 border-t border-line text-sm">
            {view.rules.map((rule) => (
              <div key={rule.name} className="border-b border-line py-2">
                <dt className="small">{rule.name}</dt>
                <dd>
                  {rule.text.map((phrase) =>
                    typeof phrase === "string" ? phrase : <b key={phrase.strong}>{phrase.strong}</b>,
                  )}
                </dd>
              </div>
            ))}
          </dl>
        </Tabs.Content>
      </Tabs.Root>
    </aside>
  );
}
