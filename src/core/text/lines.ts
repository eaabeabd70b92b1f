const escaped = (text: string): string =>
  text.replace(/&/g, "&amp;").replace(/</g, "&lt;").replace(/>/g, "&gt;").replace(/"/g, "&quot;");

/**
 * What was typed in plain lines as rich text: an empty line begins a paragraph.
 * @example richLines("one\ntwo\n\nthree & more") → "<p>one<br>two</p><p>three &amp; more</p>"
 */
export const richLines = (text: string): string =>
  text
    .trim()
    .split(/\n\s*\n/)
    .filter((paragraph) => paragraph.trim() !== "")
    .map((paragraph) => `<p>${escaped(paragraph.trim()).replace(/\n/g, "<br>")}</p>`)
    .join("");
