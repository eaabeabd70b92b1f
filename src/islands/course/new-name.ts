let made = 0;

/** A name for what is new in a plan, until it is kept and has one of the server. */
export const newName = (): string => {
  made += 1;
  return `new-${made}`;
};
