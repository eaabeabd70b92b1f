/**
 * An object with the fields that have a value: one that is set to nothing is not there.
 * @example given({ a: 1, b: undefined }) → { a: 1 }
 */
export const given = <T extends object>(fields: T): T =>
  Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== undefined)) as T;
