/** The error that the database or its driver gave, however it was wrapped. */
function codeOf(error: unknown): string {
  const cause = error instanceof Error && error.cause ? error.cause : error;
  const { code } = (cause ?? {}) as { code?: unknown };
  return typeof code === "string" ? code : "";
}

/** Whether the database refused what it was given, and would refuse it again (classes 22, 23 and 54 of SQLSTATE). */
export const isRefusedContent = (error: unknown): boolean => /^(22|23|54)[0-9A-Z]{3}$/.test(codeOf(error));

/** Whether the database could not be asked, or not now: the same may succeed later. */
export const isConnectionTrouble = (error: unknown): boolean =>
  codeOf(error) !== "" && !isRefusedContent(error);
