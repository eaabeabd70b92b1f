import { type Said, said } from "@/core/said";

const SYSTEMS: readonly (readonly [RegExp, Said])[] = [
  [/iPhone/, said("server.sign-in.device-words.an-iphone")],
  [/iPad/, said("server.sign-in.device-words.an-ipad")],
  [/Android/, said("server.sign-in.device-words.an-android-device")],
  [/CrOS/, said("server.sign-in.device-words.a-chromebook")],
  [/Windows/, said("server.sign-in.device-words.a-windows-computer")],
  [/Mac OS X|Macintosh/, said("server.sign-in.device-words.a-mac")],
  [/Linux/, said("server.sign-in.device-words.a-linux-computer")],
];
const BROWSERS: readonly (readonly [RegExp, Said])[] = [
  [/Edg\//, said("server.sign-in.device-words.edge")],
  [/Firefox\//, said("server.sign-in.device-words.firefox")],
  [/Chrome\//, said("server.sign-in.device-words.chrome")],
  [/Safari\//, said("server.sign-in.device-words.safari")],
];

/** What a browser says of itself, in words by which its owner knows it: "Firefox on a Windows computer". */
export function deviceWords(userAgent: string | null): Said {
  const of = (names: readonly (readonly [RegExp, Said])[]) =>
    names.find(([sign]) => sign.test(userAgent ?? ""))?.[1];
  const [browser, system] = [of(BROWSERS), of(SYSTEMS)];
  if (!browser && !system) return said("server.sign-in.device-words.an-unknown-device");
  const name = browser ?? said("server.sign-in.device-words.a-browser");
  return system ? said("server.sign-in.device-words.on", { browser: name, system }) : name;
}
