import type { AllowanceTerms } from "@/core/allowances/allowance-terms";
import type { EveryonesTimes } from "@/core/allowances/times-view";
import type { OwnMoment } from "@/core/attempt/deadline";
import type { Instant } from "@/core/time/instants";
import { instantOfLocal, localText } from "@/core/time/local-time";
import { t } from "@/words/t";
import type { MomentDraft } from "./MomentField";

/** A figure as it is typed, with a comma or a point; null: nothing is typed; undefined: it is no number. */
export function figureIn(text: string): number | null | undefined {
  const plain = text.trim().replace(",", ".");
  if (plain === "") return null;
  return /^\d+(\.\d+)?$/.test(plain) ? Number(plain) : undefined;
}

/** A moment of a window as it is edited. @param without what null is here */
export const momentDraft = (moment: OwnMoment, zone: string, without: "none" | "as-everyone"): MomentDraft =>
  moment === null
    ? { kind: without }
    : moment === "none"
      ? { kind: "none" }
      : { kind: "own", text: localText(moment, zone) };

/**
 * A moment as it is sent: an instant's text, "none", or null for as everyone; undefined: its field is empty. What was not
 * changed to the minute stays as it was to the second.
 */
export function momentIn(draft: MomentDraft, was: OwnMoment, zone: string): string | null | undefined {
  if (draft.kind === "as-everyone") return null;
  if (draft.kind === "none") return "none";
  if (typeof was === "number" && localText(was, zone) === draft.text) return new Date(was).toISOString();
  const at = instantOfLocal(draft.text, zone);
  return at === null ? undefined : new Date(at).toISOString();
}

/** The times of everyone as they are edited. */
export interface EveryoneDraft {
  readonly opens: MomentDraft;
  readonly due: MomentDraft;
  readonly closes: MomentDraft;
  readonly timeLimit: string;
  readonly attempts: string;
  readonly closingCutsClock: boolean;
  /** Null: everyone in the course. */
  readonly onlyFor: ReadonlySet<string> | null;
}

const figure = (value: number | null): string => (value === null ? "" : `${value}`);

export const everyoneDraft = (times: EveryonesTimes, zone: string): EveryoneDraft => ({
  opens: momentDraft(times.opens, zone, "none"),
  due: momentDraft(times.due, zone, "none"),
  closes: momentDraft(times.closes, zone, "none"),
  timeLimit: figure(times.timeLimit),
  attempts: figure(times.attempts),
  closingCutsClock: times.closingCutsClock,
  onlyFor: times.onlyFor && new Set(times.onlyFor),
});

/** What is to be sent, or what is still wrong with it. */
export type Sent = { readonly body: object | null; readonly mistake: string | null };
const wrong = (mistake: string): Sent => ({ body: null, mistake });

const sameMoment = (text: string, was: Instant | null): boolean =>
  text === "none" ? was === null : was !== null && Date.parse(text) === was;

/** What of everyone's times is changed; a body of null: nothing is. */
export function everyoneSent(draft: EveryoneDraft, times: EveryonesTimes, zone: string): Sent {
  const body: Record<string, unknown> = {};
  for (const what of ["opens", "due", "closes"] as const) {
    const text = momentIn(draft[what], times[what], zone);
    if (text === undefined || text === null) return wrong(t("allowances.times-draft.a-date-is-missing"));
    if (!sameMoment(text, times[what])) body[what] = text === "none" ? null : text;
  }
  for (const what of ["timeLimit", "attempts"] as const) {
    const typed = figureIn(draft[what]);
    if (typed === undefined) return wrong(t("allowances.times-draft.write-numbers"));
    if (typed !== times[what]) body[what] = typed;
  }
  if (draft.closingCutsClock !== times.closingCutsClock) body.closingCutsClock = draft.closingCutsClock;
  const listed = (ids: Iterable<string> | null) => (ids === null ? null : [...ids].sort().join());
  if (listed(draft.onlyFor) !== listed(times.onlyFor)) {
    if (draft.onlyFor?.size === 0) return wrong(t("allowances.times-draft.choose-someone"));
    body.onlyFor = draft.onlyFor === null ? null : [...draft.onlyFor];
  }
  return { body: Object.keys(body).length === 0 ? null : body, mistake: null };
}

/** An allowance as it is edited. */
export interface AllowanceDraft {
  /** A section, or the students chosen. */
  readonly sectionId: string | null;
  readonly people: ReadonlySet<string>;
  readonly factor: string;
  readonly extraMinutes: string;
  readonly extraAttempts: string;
  readonly opens: MomentDraft;
  readonly due: MomentDraft;
  readonly closes: MomentDraft;
  readonly daysLater: string;
}

export const allowanceDraft = (
  terms: AllowanceTerms,
  to: Pick<AllowanceDraft, "sectionId" | "people">,
  zone: string,
): AllowanceDraft => ({
  ...to,
  factor: figure(terms.factor),
  extraMinutes: figure(terms.extraMinutes),
  extraAttempts: figure(terms.extraAttempts),
  opens: momentDraft(terms.opens, zone, "as-everyone"),
  due: momentDraft(terms.due, zone, "as-everyone"),
  closes: momentDraft(terms.closes, zone, "as-everyone"),
  daysLater: figure(terms.daysLater),
});

/** An allowance as it is sent; a body of null: nothing is given yet, or to nobody. */
export function allowanceSent(draft: AllowanceDraft, was: AllowanceTerms, zone: string): Sent {
  const body: Record<string, unknown> = {};
  for (const what of ["factor", "extraMinutes", "extraAttempts", "daysLater"] as const) {
    const typed = figureIn(draft[what]);
    if (typed === undefined) return wrong(t("allowances.times-draft.write-numbers"));
    if (typed !== null) body[what] = typed;
  }
  for (const what of ["opens", "due", "closes"] as const) {
    const text = momentIn(draft[what], was[what], zone);
    if (text === undefined) return wrong(t("allowances.times-draft.a-date-is-missing"));
    if (text !== null) body[what] = text;
  }
  const isNothing = Object.keys(body).length === 0;
  const isNobody = draft.sectionId === null && draft.people.size === 0;
  if (isNothing || isNobody) return { body: null, mistake: null };
  return {
    body: {
      ...body,
      ...(draft.sectionId === null ? { personIds: [...draft.people] } : { sectionId: draft.sectionId }),
    },
    mistake: null,
  };
}
