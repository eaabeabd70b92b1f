import type { Instant } from "../time/instants";

/** What was said to a whole course, as it is listed. */
export interface AnnouncementView {
  readonly id: string;
  readonly text: string;
  readonly author: string;
  readonly at: Instant;
  /** Until when it stands on Today; null: without an end. */
  readonly shownUntil: Instant | null;
}
