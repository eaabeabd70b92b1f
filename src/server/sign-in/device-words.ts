import { type Said, said } from "@/core/said";

const SYSTEMS: readonly (readonly [RegExp, Said])[] = [
  [/iPhone/, said("sign-in.device-words.an-iphone")],
  [/iPad/, said("sign-in.device-words.an-ipad")],
  [/Android/, said("sign-in.device-words.an-android-device")],
  [/CrOS/, said("sign-in.device-words.a-chromebook")],
  [/Windows/, said("sign-in.device-words.a-windows-computer")],
  [/Mac OS X|Macintosh/, said("sign-in.device-words.a-mac")],
  [/Linux/, said("sign-in.device-words.a-linux-computer")],
];
const BROWSERS: readonly (readonly [RegExp, Said])[] = [
  [/Edg\//, said("sign-in.device-words.edge")],
  [/Firefox\//, said("sign-in.device-words.firefox")],
  [/Chrome\//, said("sign-in.device-words.chrome")],
  [/Safari\//, said("sign-in.device-words.safari")],
];

/** What a browser says of itself, in words by which its owner knows it: "Firefox on a Windows computer". */
export function deviceWords(userAgent: string | null): Said {
  const of = (names: readonly (readonly [RegExp, Said])[]) =>
    names.find(([sign]) => sign.test(userAgent ?? ""))?.[1];
  const [browser, system] = [of(BROWSERS), of(SYSTEMS)];
  if (!browser && !system) return said("sign-in.device-words.an-unknown-device");
  const name = browser ?? said("sign-in.device-words.a-browser");
  return system ? said("sign-in.device-words.on", { browser: name, system }) : name;
}
