import type { RefusedEntry } from "../desk/desk-view";
import type { Written } from "../journal/merge";
import type { UnitMeanings } from "../numbers/unit-names";
import type { Instant } from "../time/instants";
import type { DraftPiece } from "./pieces";

/** A change that an author's page writes down: the newest state of one piece. */
export interface DraftEntry extends Written {
  readonly piece: DraftPiece;
  /** The version of the stored piece that it was written on; 0: there was none. */
  readonly base: number;
}

/** A piece as the server holds it. */
export interface StandingPiece {
  readonly slot: number;
  readonly piece: DraftPiece;
  readonly version: number;
  /** Who wrote it. */
  readonly author: string;
  readonly device: string;
  readonly revision: number;
}

/** What the server answers to a save. */
export interface DraftReceipt {
  readonly serverNow: Instant;
  readonly saved: readonly (Pick<Written, "slot" | "device" | "revision"> & { readonly version: number })[];
  readonly refused: readonly RefusedEntry[];
  /** What stands where something was refused because another wrote meanwhile. */
  readonly standing: readonly StandingPiece[];
  readonly newer: readonly never[];
}

/** Someone who has the draft open beside this page. */
export interface OtherAuthor {
  readonly name: string;
  /** The piece that they have before them. */
  readonly slot: number;
  /** Another page of the same person. */
  readonly isSelf: boolean;
}

/** What has changed in a draft since a page asked last. */
export interface DraftNews {
  /** The number of the newest change. */
  readonly change: number;
  readonly pieces: readonly StandingPiece[];
  readonly others: readonly OtherAuthor[];
  readonly serverNow: Instant;
}

/** A draft as its page gets it. */
export interface DraftView {
  readonly id: string;
  readonly course: { readonly slug: string; readonly title: string };
  /** The quiz that it was assigned as; null: none yet. */
  readonly quizId: string | null;
  readonly assignedAt: Instant | null;
  readonly pieces: readonly StandingPiece[];
  readonly change: number;
  readonly unitMeanings: UnitMeanings;
  readonly language: string;
  readonly zone: string;
  readonly email: string;
  readonly serverNow: Instant;
}

/** A state of a draft that can be looked at and brought back. */
export interface SavedState {
  /** The number of the change with which it was complete. */
  readonly change: number;
  readonly at: Instant;
  readonly by: string;
  /** How many changes led to it from the one before. */
  readonly changes: number;
}
