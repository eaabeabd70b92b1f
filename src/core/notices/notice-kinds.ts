import { type Said, said } from "../said";

/** What a person can be told about, by the bell and by mail. */
export const NOTICE_KINDS = [
  "returned",
  "shown",
  "opened",
  "moved",
  "by-clock",
  "extended",
  "answered",
  "gradebook",
  "announced",
  "asked",
  "faulty",
] as const;
/** What is told by mail alone, and cannot be switched off: it is about the account itself. */
export const SECURITY_KINDS = ["new-device", "sign-in-changed"] as const;
export type ChosenNoticeKind = (typeof NOTICE_KINDS)[number];
export type NoticeKind = ChosenNoticeKind | (typeof SECURITY_KINDS)[number];

/** @example isSecurity("new-device") → true */
export const isSecurity = (kind: NoticeKind): boolean =>
  (SECURITY_KINDS as readonly NoticeKind[]).includes(kind);

/** What only those who teach are told. */
export const STAFF_KINDS: readonly NoticeKind[] = ["asked", "faulty"];

/** Each as its reader switches it: "when ...". */
export const NOTICE_WORDS: { readonly [K in ChosenNoticeKind]: Said } = {
  returned: said("notices.notice-kinds.marks-and-feedback-are-returned"),
  shown: said("notices.notice-kinds.marks-or-answers-that-were-held"),
  opened: said("notices.notice-kinds.a-quiz-opens"),
  "by-clock": said("notices.notice-kinds.the-clock-hands-in-an-attempt"),
  moved: said("notices.notice-kinds.a-quiz-opens-is-due-or"),
  extended: said("notices.notice-kinds.i-get-more-time-in-a"),
  answered: said("notices.notice-kinds.a-question-of-mine-about-a"),
  gradebook: said("notices.notice-kinds.a-mark-of-mine-is-set"),
  announced: said("notices.notice-kinds.something-is-announced"),
  asked: said("notices.notice-kinds.a-student-asks-about-a-mark"),
  faulty: said("notices.notice-kinds.a-question-of-mine-cannot-be"),
};
