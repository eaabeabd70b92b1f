/** Any address of our own: what is compared is how browsers read an address, not how it is written. */
const HERE = "http://shizuka.invalid";

/** Where to go on to: a path of our own as it was wanted, or Today where it leads anywhere else. */
export function ownPath(wanted: string): string {
  if (!URL.canParse(wanted, HERE)) return "/today";
  const { origin, pathname, search, hash } = new URL(wanted, HERE);
  const path = pathname + search + hash;
  // What is written back must lead to the same place when it is read again.
  const isOurs = origin === HERE && wanted.startsWith("/") && new URL(path, HERE).origin === HERE;
  return isOurs ? path : "/today";
}
