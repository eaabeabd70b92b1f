import { useCallback, useEffect, useRef, useState, useSyncExternalStore } from "react";
import type { DeskView } from "@/core/desk/desk-view";
import { Confirm } from "@/ui/Confirm";
import { t } from "@/words/t";
import { nearDay } from "@/words/times";
import { SignInAgain } from "../keeping/SignInAgain";
import { ByMenus, ContentLanguage, PictureWords } from "../kinds/view-contexts";
import { DeskFooter } from "./DeskFooter";
import { isWritable } from "./desk-phase";
import { DeskStore } from "./desk-store";
import { EmberLine } from "./EmberLine";
import { FinalLook } from "./FinalLook";
import { HandInWaits } from "./HandInWaits";
import { Head } from "./Head";
import { KeysDialog } from "./KeysDialog";
import type { KeysHere } from "./keys";
import { PageSheet } from "./PageSheet";
import { type Tool, Tools, toolsOf } from "./Tools";
import { useCountdown } from "./use-countdown";
import { keysOf, useKeys } from "./use-keys";
import { useLoadingAhead } from "./use-loading-ahead";
import { type TextSize, useViewSettings } from "./use-view-settings";

const SIZES: { readonly [S in TextSize]: string } = {
  normal: "100%",
  large: "112.5%",
  larger: "125%",
  largest: "150%",
};

/** The page on which an attempt is taken. */
export function Desk({ view }: { readonly view: DeskView }) {
  const [store] = useState(() => new DeskStore(view));
  const state = useSyncExternalStore(store.screen.subscribe, store.screen.state, store.screen.state);
  const countdown = useCountdown(store, state.deadline, state.startedAt);
  const [ready, setReady] = useState(false);
  const [settings, changeSettings] = useViewSettings();
  const [tool, setTool] = useState<Tool>(toolsOf(view)[0]?.[0] ?? "brief");
  const [toolsOut, setToolsOut] = useState(view.reference !== null);
  const [leaving, setLeaving] = useState(false);
  const [signingIn, setSigningIn] = useState(false);
  const [keys, setKeys] = useState<KeysHere | null>(null);
  const showKeys = useCallback(() => setKeys(keysOf(store)), [store]);

  useEffect(() => {
    setReady(true);
    return store.open();
  }, [store]);
  // All sizes are relative to the root's, so the whole desk grows, and nothing of it is cut off.
  useEffect(() => {
    document.documentElement.style.fontSize = SIZES[settings.textSize];
  }, [settings.textSize]);
  useKeys(store, settings.letterKeys, showKeys);
  useFocusOnTurn(state.here, state.look);
  useFinalLookInHistory(store, state.look);
  useLoadingAhead(view.attemptId, state);

  const { look, phase } = state;
  const limit = state.deadline === null ? null : state.deadline - state.startedAt;
  const left = countdown.left;

  return (
    <ContentLanguage value={view.language}>
      <ByMenus value={settings.menus}>
        <PictureWords value={settings.pictureWords}>
          <div
            // Clipped, not hidden: nothing may scroll the desk itself, not even bringing a question into view.
            className="flex h-dvh flex-col overflow-clip max-lg:h-auto max-lg:min-h-dvh max-lg:overflow-visible"
            data-ready={ready}
          >
            {limit !== null && left !== null && view.limitMinutes !== null && (
              <EmberLine burned={1 - left / limit} notches={view.warnings.map((notice) => notice / limit)} />
            )}
            <Head
              store={store}
              state={state}
              countdown={countdown}
              ready={ready}
              settings={settings}
              onClock={(clock) => changeSettings({ clock })}
              onSignIn={() => setSigningIn(true)}
              onLeave={() => setLeaving(true)}
            />
            <div className="flex min-h-0 flex-1 max-lg:flex-col">
              <main
                id="content"
                className="relative min-w-0 flex-1 px-4 pt-8 pb-10 sm:px-10 lg:overflow-y-auto"
              >
                {!isWritable(phase) ? (
                  <Closing isOver={phase.kind === "over"} />
                ) : look === "final" ? (
                  <FinalLook store={store} state={state} left={left} />
                ) : (
                  <PageSheet store={store} state={state} ready={ready} />
                )}
              </main>
              <Tools
                view={view}
                tool={tool}
                shown={toolsOut && look === "question"}
                settings={settings}
                onTool={setTool}
                onSettings={changeSettings}
                onClose={() => {
                  setToolsOut(false);
                  // The focus goes back to what takes them out again.
                  requestAnimationFrame(() => document.querySelector<HTMLElement>("[data-tools]")?.focus());
                }}
              />
            </div>
            <DeskFooter
              store={store}
              state={state}
              isLarge={settings.textSize === "larger" || settings.textSize === "largest"}
              onTools={
                toolsOut
                  ? null
                  : () => {
                      setToolsOut(true);
                      requestAnimationFrame(() => {
                        const tools = document.getElementById("tools");
                        tools?.scrollIntoView({ block: "nearest" });
                        tools?.querySelector<HTMLElement>("[role=tab][aria-selected=true]")?.focus();
                      });
                    }
              }
            />
            <Confirm
              open={leaving}
              onOpenChange={setLeaving}
              title={t("desk.desk.leave-for-now")}
              yes={t("desk.desk.leave-for-now-2")}
              no={t("desk.desk.stay")}
              onYes={() => {
                store.saving.leave();
                location.assign("/today");
              }}
            >
              <p>{t("desk.desk.this-hands-nothing-in-everything-is")}</p>
              {state.deadline !== null && (
                <p>
                  {t(
                    view.limitMinutes === null
                      ? "desk.desk.there-is-no-time-limit-you"
                      : "desk.desk.the-clock-runs-on-while-you",
                    { when: nearDay(state.deadline, state.deadline - (left ?? 0), view.zone) },
                  )}
                </p>
              )}
            </Confirm>
            <Confirm
              open={state.asking !== null}
              onOpenChange={(open) => !open && store.turning.stay()}
              title={t("desk.desk.close-it-and-move-on")}
              yes={t("desk.desk.move-on")}
              no={t("desk.desk.stay")}
              busy={state.busy === "turning"}
              onYes={() => state.asking && void store.turning.turn(state.asking)}
            >
              <p>{state.asking?.words}</p>
            </Confirm>
            <SignInAgain
              email={store.view.email}
              signIn={(password) => store.signInAgain(password)}
              open={signingIn}
              onOpenChange={setSigningIn}
            />
            <HandInWaits store={store} state={state} />
            <KeysDialog keys={keys} onClose={() => setKeys(null)} />
          </div>
        </PictureWords>
      </ByMenus>
    </ContentLanguage>
  );
}

function Closing({ isOver }: { readonly isOver: boolean }) {
  return (
    <div role="status" className="mx-auto max-w-xl pt-10">
      <h2 className="font-read text-[1.75rem] font-medium">
        {isOver ? t("desk.desk.handed-in") : t("desk.desk.time-is-up")}
      </h2>
      <p className="mt-2 font-read text-lg">
        {isOver ? t("desk.desk.your-slip-follows-now") : t("desk.desk.what-you-have-written-is-being")}
      </p>
    </div>
  );
}

/** On turning to another question the reading, and a screen reader's, starts at its top. */
function useFocusOnTurn(here: number, look: string): void {
  const turned = useRef(false);
  useEffect(() => {
    if (!turned.current) {
      turned.current = true;
      return;
    }
    const heading = document.getElementById(look === "final" ? "final-look" : `question-${here}`);
    // Working in a question of the page makes it the one that is here; the focus stays where it is then.
    if (!heading || heading.closest("section")?.contains(document.activeElement)) return;
    heading.focus({ preventScroll: true });
    const page = heading.closest("[data-page]");
    if (page && page.querySelectorAll("section").length > 1) {
      heading.closest("section")?.scrollIntoView({ block: "start" });
      return;
    }
    document.getElementById("content")?.scrollTo({ top: 0 });
    if (matchMedia("(max-width: 63.99rem)").matches) scrollTo({ top: 0 });
  }, [here, look]);
}

/** The browser's way back leads from the final look to the question, not out of the desk. */
function useFinalLookInHistory(store: DeskStore, look: "question" | "final"): void {
  useEffect(() => {
    const onFinal = history.state?.look === "final";
    if (look === "final" && !onFinal) history.pushState({ look: "final" }, "");
    if (look === "question" && onFinal) history.back();
  }, [look]);
  useEffect(() => {
    if (history.state?.look === "final") store.turning.look("final");
    const popped = () => store.turning.look(history.state?.look === "final" ? "final" : "question");
    addEventListener("popstate", popped);
    return () => removeEventListener("popstate", popped);
  }, [store]);
}
