const SYSTEMS: readonly (readonly [RegExp, string])[] = [
  [/iPhone/, "an iPhone"],
  [/iPad/, "an iPad"],
  [/Android/, "an Android device"],
  [/CrOS/, "a Chromebook"],
  [/Windows/, "a Windows computer"],
  [/Mac OS X|Macintosh/, "a Mac"],
  [/Linux/, "a Linux computer"],
];
const BROWSERS: readonly (readonly [RegExp, string])[] = [
  [/Edg\//, "Edge"],
  [/Firefox\//, "Firefox"],
  [/Chrome\//, "Chrome"],
  [/Safari\//, "Safari"],
];

/** What a browser says of itself, in words by which its owner knows it: "Firefox on a Windows computer". */
export function deviceWords(userAgent: string | null): string {
  const of = (names: readonly (readonly [RegExp, string])[]) =>
    names.find(([sign]) => sign.test(userAgent ?? ""))?.[1];
  const [browser, system] = [of(BROWSERS), of(SYSTEMS)];
  if (!browser && !system) return "an unknown device";
  return system ? `${browser ?? "a browser"} on ${system}` : (browser ?? "a browser");
}
