import sanitizeHtml from "sanitize-html";
import type { QuizFile } from "@/core/quiz/quiz-file";

const ALLOWED: sanitizeHtml.IOptions = {
  allowedTags: [
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
  ],
  allowedAttributes: { th: ["scope"], td: ["colspan", "rowspan"] },
};

/** Rich text as it may be stored and shown: a small part of HTML, nothing that runs, loads or styles. */
export const cleanText = (rich: string): string => sanitizeHtml(rich, ALLOWED);

const RICH_FIELDS = new Set(["text", "worked", "readMore", "feedback", "brief", "reference", "material"]);

function cleaned(value: unknown, field: string): unknown {
  if (typeof value === "string") return RICH_FIELDS.has(field) ? cleanText(value) : value;
  if (Array.isArray(value)) return value.map((each) => cleaned(each, field));
  if (typeof value !== "object" || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([key, each]) => [key, cleaned(each, key)]));
}

/** A quiz with all its rich text cleaned: done once, on the way in. */
export const cleanQuiz = (quiz: QuizFile): QuizFile => cleaned(quiz, "") as QuizFile;
