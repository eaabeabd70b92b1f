/// <reference types="astro/client" />

declare namespace App {
  interface Locals {
    /** Who is signed in, or null. */
    viewer: import("./server/access/viewer").Viewer | null;
    /** The session token of the cookie, its signature checked; the session itself may have ended. */
    token: string | null;
    /** Whether the viewer is the student of a quiz that is tried out. */
    isTrial: boolean;
    /** Notices that the viewer has not seen yet. */
    unseen: number;
    /** The network address that the request comes from. */
    address: string;
    institution: string;
    zone: string;
    /** Names this request in the log and in problems. */
    reference: string;
    /** The request failed, and the page that says so is being made. */
    failed?: boolean;
  }
}
