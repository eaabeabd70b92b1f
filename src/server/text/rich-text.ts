import sanitizeHtml from "sanitize-html";
import { filePath } from "@/core/attempt/paths";

const TAGS = [
  "p",
  "br",
  "strong",
  "em",
  "b",
  "i",
  "u",
  "s",
  "sub",
  "sup",
  "ul",
  "ol",
  "li",
  "h3",
  "h4",
  "blockquote",
  "code",
  "table",
  "thead",
  "tbody",
  "tr",
  "th",
  "td",
  "caption",
  "span",
];

const AUTHORED: sanitizeHtml.IOptions = {
  allowedTags: TAGS,
  allowedAttributes: { th: ["scope"], td: ["colspan", "rowspan"] },
};

/** An author's rich text as it may be stored and shown: a small part of HTML, nothing that runs, loads or styles. */
export const cleanText = (rich: string): string => sanitizeHtml(rich, AUTHORED);

// A link leads away only where one can see to, tells nothing of where it was followed, and opens beside the page. Any other is
// not a link: its words stay.
const link = (_: string, { href = "" }: sanitizeHtml.Attributes): sanitizeHtml.Tag =>
  /^(https:\/\/|mailto:)/i.test(href)
    ? { tagName: "a", attribs: { href, rel: "noopener noreferrer nofollow", target: "_blank" } }
    : { tagName: "not-a-link", attribs: {} };
const LINKS = {
  allowedSchemes: ["https", "mailto"],
  allowProtocolRelative: false,
  transformTags: { a: link },
};

/** What stands in a course's plan: an author's rich text, with links. */
export const cleanPlanText = (rich: string): string =>
  sanitizeHtml(rich, {
    ...AUTHORED,
    ...LINKS,
    nestingLimit: 40,
    allowedTags: [...TAGS, "a"],
    allowedAttributes: { ...AUTHORED.allowedAttributes, a: ["href", "rel", "target"] },
  });

/** A student's rich text: the same, with formulas as their TeX and pictures of this attempt's own files, and no others. */
export const cleanEssay = (rich: string, attemptId: string): string =>
  sanitizeHtml(rich, {
    // Deeper than any list in a table in a quotation.
    nestingLimit: 40,
    allowedTags: [...TAGS, "hr", "pre", "img", "figure", "figcaption", "a", "colgroup", "col", "div"],
    allowedAttributes: {
      th: ["colspan", "rowspan"],
      td: ["colspan", "rowspan"],
      ol: ["start"],
      img: ["src", "alt"],
      figure: [{ name: "data-size", values: ["small", "half", "full"] }],
      a: ["href", "rel", "target"],
      span: ["data-type", "data-latex"],
      div: ["data-type", "data-latex"],
    },
    ...LINKS,
    exclusiveFilter: ({ tag, attribs }) =>
      tag === "img" && !new RegExp(`^${filePath(attemptId, "[0-9a-f-]{36}")}$`, "i").test(attribs.src ?? ""),
  });
