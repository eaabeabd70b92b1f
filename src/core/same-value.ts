const isObject = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === "object" && value !== null;

/**
 * Whether two values are the same as JSON, whatever the order of their fields. A field without a value is none.
 * @example sameValue({ a: 1, b: [2] }, { b: [2], a: 1, c: undefined }) → true
 */
export function sameValue(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (!isObject(a) || !isObject(b) || Array.isArray(a) !== Array.isArray(b)) return false;
  if (Array.isArray(a) && Array.isArray(b))
    return a.length === b.length && a.every((each, i) => sameValue(each, b[i]));
  const names = new Set([...Object.keys(a), ...Object.keys(b)]);
  return [...names].every((name) => sameValue(a[name], b[name]));
}
