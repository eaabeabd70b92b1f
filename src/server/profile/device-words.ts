import { type Said, said } from "@/core/said";

const SYSTEMS: readonly (readonly [RegExp, Said])[] = [
  [/iPhone/, said("profile.device-words.an-iphone")],
  [/iPad/, said("profile.device-words.an-ipad")],
  [/Android/, said("profile.device-words.an-android-device")],
  [/CrOS/, said("profile.device-words.a-chromebook")],
  [/Windows/, said("profile.device-words.a-windows-computer")],
  [/Mac OS X|Macintosh/, said("profile.device-words.a-mac")],
  [/Linux/, said("profile.device-words.a-linux-computer")],
];
const BROWSERS: readonly (readonly [RegExp, Said])[] = [
  [/Edg\//, said("profile.device-words.edge")],
  [/Firefox\//, said("profile.device-words.firefox")],
  [/Chrome\//, said("profile.device-words.chrome")],
  [/Safari\//, said("profile.device-words.safari")],
];

/** What a browser says of itself, in words by which its owner knows it: "Firefox on a Windows computer". */
export function deviceWords(userAgent: string | null): Said {
  const of = (names: readonly (readonly [RegExp, Said])[]) =>
    names.find(([sign]) => sign.test(userAgent ?? ""))?.[1];
  const [browser, system] = [of(BROWSERS), of(SYSTEMS)];
  if (!browser && !system) return said("profile.device-words.an-unknown-device");
  const name = browser ?? said("profile.device-words.a-browser");
  return system ? said("profile.device-words.on", { browser: name, system }) : name;
}
