import type { DeskView } from "@/core/desk/desk-view";
import { deskEntry } from "../keeping/desk-entry";
import { FileQueue } from "../keeping/file-queue";
import { Journal } from "../keeping/journal";
import { Keeping } from "../keeping/keeping";
import { ServerClock } from "../keeping/server-clock";
import { Answers, type DeskKeeping } from "./answers";
import { DeskScreen } from "./desk-screen";
import { initialState } from "./desk-state";
import { HandingIn } from "./handing-in";
import { isOfflineCopy, notedHere, storeDesk, storedOffset } from "./offline-desk";
import { Saving } from "./saving";
import { ServerLink } from "./server-link";
import { Sights } from "./sights";
import { Turning } from "./turning";

/** Everything that happens at a desk, apart from how it looks: its parts, joined. */
export class DeskStore {
  readonly screen: DeskScreen;
  readonly clock: ServerClock;
  readonly files: FileQueue;
  readonly keeping: DeskKeeping;
  readonly answers: Answers;
  readonly saving: Saving;
  readonly turning: Turning;
  readonly handingIn: HandingIn;
  readonly link: ServerLink;
  readonly sights: Sights;
  readonly #journal: Journal<DeskView["answers"][number]>;

  constructor(readonly view: DeskView) {
    const { attemptId, answers } = view;
    const entries = new Map(answers.map((entry) => [entry.slot, entry]));
    this.screen = new DeskScreen(view, initialState(view, entries));
    this.clock = new ServerClock(view.clock.serverNow, arrival());
    const now = () => this.clock.now();
    this.#journal = new Journal(attemptId, deskEntry);
    this.files = new FileQueue({
      attemptId,
      onChange: (files) => this.screen.set({ files }),
      onArrived: (file) => this.answers.takeFile(file) && this.files.forget(file.id),
    });
    this.keeping = new Keeping({
      channel: `attempt ${attemptId}`,
      journal: this.#journal,
      entries: answers,
      now,
      post: (sent, keepalive) => this.saving.post(sent, keepalive),
      content: (slot) => this.answers.content(slot),
      isThere: (slot) => this.screen.state().slots[slot - 1] !== undefined,
      isShown: (slot) => this.screen.state().slots[slot - 1]?.question != null,
      isOpen: (slot) => this.screen.isOpen(slot),
      differs: (entry) => this.answers.differs(entry),
      onWritten: () => this.saving.written(),
      onArrival: (entry, how, before) => this.answers.arrived(entry, how, before),
      onKeeps: (keepsOnDevice) => this.screen.set({ keepsOnDevice }),
      onReceipt: (receipt) => this.saving.received(receipt),
      onSending: (state) => this.saving.sendingIs(state),
      onRefused: (refused) => this.saving.refused(refused),
      onOver: () => void this.handingIn.foundOver(),
    });
    this.answers = new Answers(this.screen, this.keeping);
    this.saving = new Saving(this.screen, this.keeping, {
      now,
      onPulse: (pulse, sentAt) => this.link.pulse(pulse, sentAt),
      onOver: () => void this.handingIn.foundOver(),
      onClosed: () => void this.turning.refetch(),
    });
    this.turning = new Turning(this.screen, this.keeping, this.saving);
    this.handingIn = new HandingIn(this.screen, this.keeping, this.saving, {
      now,
      journal: this.#journal,
      filesAreThere: () => this.files.isDone,
      measure: () => this.link.measure(),
      fetching: () => this.turning.fetching,
      onOver: () => this.link.stopListening(),
    });
    const parts = [this.screen, this.clock, this.keeping, this.turning, this.handingIn] as const;
    this.sights = new Sights(this.screen, now);
    this.link = new ServerLink(...parts, { onBack: () => this.#isBack() });
  }

  /** Takes up work in the browser: the journal, the start of the clock, and the listening. Returns how to stop. */
  open(): () => void {
    const { attemptId, confirmed } = this.view;
    // A page that this device had kept brings the time at which it was made; the device's own clock carries it on.
    if (isOfflineCopy()) this.clock.resume(Date.now() + storedOffset());
    void this.#recover().then(() => this.files.open());
    this.link.open(!confirmed && !isOfflineCopy());
    this.keeping.open();
    storeDesk(attemptId);
    this.sights.open();
    const leave = () => {
      this.saving.leave();
      void this.sights.tell();
    };
    const back = () => {
      this.#isBack();
      void this.link.measure();
    };
    const seen = () => (document.visibilityState === "hidden" ? leave() : void this.link.measure());
    document.addEventListener("visibilitychange", seen);
    addEventListener("pagehide", leave);
    addEventListener("pageshow", back);
    addEventListener("online", back);
    return () => {
      this.keeping.writeTyped();
      document.removeEventListener("visibilitychange", seen);
      removeEventListener("pagehide", leave);
      removeEventListener("pageshow", back);
      removeEventListener("online", back);
      this.sights.close();
      this.link.close();
      this.handingIn.stop();
      this.files.stop();
      this.keeping.close();
    };
  }

  /** The server can be reached, perhaps again: what waits goes now and not after its pause. */
  #isBack(): void {
    void this.keeping.send();
    this.files.retry();
    this.handingIn.tryAgain();
  }

  /** Signs in again without leaving the desk: what waited for it goes. @throws Refusal with a sentence. */
  async signInAgain(password: string): Promise<void> {
    await this.saving.signInAgain(password);
    await this.link.measure();
    this.handingIn.tryAgain();
  }

  /** Takes up what this device has of the attempt: answers, the question that was on the screen, a hand-in that waited. */
  async #recover(): Promise<void> {
    this.answers.recovered(await this.keeping.recover(), () => this.saving.isAllSaved);
    // The same question as before a reload, also where the server has not heard of it yet.
    const here = notedHere(this.view.attemptId);
    if (here !== null && here !== this.screen.state().here && this.screen.isOpen(here))
      this.screen.set({ here });
    const pressedAt = await this.#journal.handInPressed();
    if (pressedAt !== null) void this.handingIn.press(pressedAt);
  }
}

/** The monotonic moment at which the page's first bytes came, which is when the server made it. */
function arrival(): number {
  if (typeof performance === "undefined" || typeof document === "undefined") return 0;
  const [navigation] = performance.getEntriesByType("navigation");
  return navigation instanceof PerformanceNavigationTiming ? navigation.responseStart : performance.now();
}
