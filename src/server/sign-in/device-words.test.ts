import { expect, test } from "vitest";
import { deviceWords } from "./device-words";

test.each([
  [
    "Mozilla/5.0 (Windows NT 10.0; Win64; x64; rv:140.0) Gecko/20100101 Firefox/140.0",
    "Firefox on a Windows computer",
  ],
  [
    "Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/156.0.0.0 Safari/537.36",
    "Chrome on a Linux computer",
  ],
  [
    "Mozilla/5.0 (iPhone; CPU iPhone OS 18_0 like Mac OS X) AppleWebKit/605.1.15 Version/18.0 Mobile/15E148 Safari/604.1",
    "Safari on an iPhone",
  ],
  ["curl/8.0", "an unknown device"],
  [null, "an unknown device"],
])("%s is %s", (userAgent, words) => {
  expect(deviceWords(userAgent)).toEqual(words);
});
