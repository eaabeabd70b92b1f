import type { CourseRole } from "@/core/access/may";
/** A person whom the sign-in page offers with one press: someone of the demo. */
export interface OfferedPerson {
  readonly name: string;
  readonly email: string;
  readonly password: string;
  /** Null: in no course. */
  readonly role: CourseRole | "administrator" | null;
  readonly courses: readonly string[];
}

let offered: (() => Promise<readonly OfferedPerson[]>) | null = null;

/** Says who is offered at the sign-in page: what the demo does when it is loaded. Nothing else offers anyone. */
export function offerPeople(people: () => Promise<readonly OfferedPerson[]>): void {
  offered = people;
}

/** Whom the sign-in page offers; nobody, unless the demo was loaded. */
export const offeredPeople = async (): Promise<readonly OfferedPerson[]> => (offered ? offered() : []);
