export const CHROMIUM_ARGS: readonly string[];
export function ensureChromium(): string;
