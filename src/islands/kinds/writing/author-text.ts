import { Mark, mergeAttributes, Node } from "@tiptap/core";
import { Mathematics } from "@tiptap/extension-mathematics";
import { TableKit } from "@tiptap/extension-table";
import { Plugin, PluginKey } from "@tiptap/pm/state";
import { Decoration, DecorationSet } from "@tiptap/pm/view";
import { StarterKit } from "@tiptap/starter-kit";
import { formulasDrawn, plainTex } from "@/core/kinds/drawn";
import { DRAWING } from "../drawn-tex";

const raised = (name: "sub" | "sup") =>
  Mark.create({
    name,
    excludes: name === "sub" ? "sup" : "sub",
    parseHTML: () => [{ tag: name }],
    renderHTML: ({ HTMLAttributes }) => [name, mergeAttributes(HTMLAttributes), 0],
  });

/** The title of a table, which the table's own extension does not know. */
const Caption = Node.create({
  name: "tableCaption",
  content: "inline*",
  parseHTML: () => [{ tag: "caption" }],
  renderHTML: () => ["caption", 0],
});

/** Names in braces that are drawn numbers of the question, with their values: `{hw}`. */
const drawnNumbers = (values: () => ReadonlyMap<string, string>) =>
  new Plugin({
    key: new PluginKey("drawn"),
    props: {
      decorations(state) {
        const found: Decoration[] = [];
        const known = values();
        if (known.size === 0) return DecorationSet.empty;
        state.doc.descendants((node, position) => {
          if (!node.isText) return;
          for (const match of (node.text ?? "").matchAll(/\{([A-Za-z]\w*)\}/g)) {
            const value = known.get(match[1] ?? "");
            if (value === undefined) continue;
            const from = position + match.index;
            const attributes = { class: "drawn-number", "data-value": value };
            found.push(Decoration.inline(from, from + match[0].length, attributes));
          }
        });
        return DecorationSet.create(state.doc, found);
      },
    },
  });

interface AuthorTextTerms {
  /** A formula was pressed: its TeX, and where it stands. */
  readonly onFormula: (latex: string, position: number) => void;
  /** The drawn numbers, as they are shown now. */
  readonly values: () => ReadonlyMap<string, string>;
}

/** What an author's text may hold: what the server keeps of it, and nothing more. */
export const authorExtensions = ({ onFormula, values }: AuthorTextTerms) => [
  StarterKit.configure({
    heading: { levels: [3, 4] },
    link: false,
    codeBlock: false,
    horizontalRule: false,
    trailingNode: false,
    // What was done is undone in the draft as a whole.
    undoRedo: false,
  }).extend({ addProseMirrorPlugins: () => [drawnNumbers(values)] }),
  raised("sub"),
  raised("sup"),
  Caption,
  TableKit.configure({ table: { resizable: false } }),
  Mathematics.configure({
    inlineOptions: { onClick: (node, position) => onFormula(String(node.attrs.latex), position) },
    katexOptions: { ...DRAWING, throwOnError: false },
  }),
];

const attribute = (text: string): string =>
  text.replace(/&/g, "&amp;").replace(/"/g, "&quot;").replace(/</g, "&lt;").replace(/>/g, "&gt;");
/**
 * An author's text as the editor reads it: its formulas, written \( ... \), as elements.
 * @example forEditor("an area of \\(r^2\\)") → 'an area of <span data-type="inline-math" data-latex="r^2"></span>'
 */
export const forEditor = (text: string): string =>
  formulasDrawn(text, (tex) => `<span data-type="inline-math" data-latex="${attribute(tex)}"></span>`);

const FORMULA = /<span(?=[^>]*data-type="inline-math")[^>]*data-latex="([^"]*)"[^>]*>\s*<\/span>/g;

/**
 * What the editor holds as an author's text: one paragraph by itself without its tag, an empty one as nothing.
 * @example fromEditor("<p>one</p>") → "one"
 */
export function fromEditor(html: string): string {
  const text = html
    .replace(
      FORMULA,
      (_, latex: string) =>
        `\\(${attribute(plainTex(latex.replace(/&quot;/g, '"'))).replace(/&quot;/g, '"')}\\)`,
    )
    // The editor needs widths of columns and paragraphs in cells; nobody wrote them.
    .replace(/<colgroup>.*?<\/colgroup>/gs, "")
    .replace(/ style="[^"]*"/g, "")
    .replace(/ (col|row)span="1"/g, "")
    .replace(/(<(?:td|th|li)[^>]*>)<p>((?:(?!<\/?p>|<ul|<ol).)*)<\/p>(?=<\/(?:td|th|li)>)/gs, "$1$2");
  const [, only] = /^<p>((?:(?!<\/?p>).)*)<\/p>$/s.exec(text) ?? [];
  return only ?? text;
}

const tagsIn = (html: string): string =>
  [...html.matchAll(/<(\w+)/g)]
    .map(([, tag = ""]) => tag.toLowerCase().replace(/^b$/, "strong").replace(/^i$/, "em"))
    .filter((tag) => !["p", "span", "tbody", "thead", "br"].includes(tag))
    .sort()
    .join(" ");

/**
 * Whether the editor can hold a text without losing something of it; else it is written as it is kept.
 * @param held what the editor made of it
 */
export const isHeldWhole = (text: string, held: string): boolean =>
  tagsIn(forEditor(text)) === tagsIn(forEditor(held));
