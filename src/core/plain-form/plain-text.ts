import { escaped } from "../text/plain-text";

/** Tags and characters by name that make a value rich text as it stands; anything else is plain. */
const RICH =
  /<\/?(?:p|br|strong|em|b|i|u|sub|sup|ul|ol|li|table|caption|thead|tbody|tr|t[dh]|h[34]|code|blockquote)(?:\s[^<>]*)?\/?>|&(?:lt|gt|amp|quot|nbsp|#39);/i;

/**
 * The lines of a value as rich text: one line as it is, several as paragraphs.
 * @example asRich(["a < b"]) → "a &lt; b"
 * @example asRich(["one", "two"]) → "<p>one</p><p>two</p>"
 */
export function asRich(lines: readonly string[]): string {
  const whole = lines.join("\n");
  if (RICH.test(whole)) return whole;
  return lines.length === 1 ? escaped(whole) : lines.map((line) => `<p>${escaped(line)}</p>`).join("");
}

/**
 * Rich text as the lines of a value, of which `asRich` makes the same again wherever there are such lines.
 * @example asLines("<p>one</p><p>a &lt; b</p>") → ["one", "a < b"]
 */
export function asLines(rich: string): string[] {
  const paragraphs = /^(?:<p>(?:(?!<\/?p>).)*<\/p>){2,}$/s.test(rich)
    ? [...rich.matchAll(/<p>((?:(?!<\/?p>).)*)<\/p>/gs)].map(([, text = ""]) => text)
    : [rich];
  const plain = paragraphs.map((text) =>
    text.replace(/&lt;/g, "<").replace(/&gt;/g, ">").replace(/&amp;/g, "&"),
  );
  return asRich(plain) === rich ? plain : rich.split("\n");
}
