/** One cookie of a Cookie header, decoded; undefined when it is not there or cannot be decoded. */
export function cookieIn(header: string | undefined, name: string): string | undefined {
  const found = header?.split(/;\s*/).find((each) => each.startsWith(`${name}=`));
  try {
    return found && decodeURIComponent(found.slice(name.length + 1));
  } catch {
    return undefined;
  }
}
