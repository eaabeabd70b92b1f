import { Image } from "@tiptap/extension-image";
import { Mathematics } from "@tiptap/extension-mathematics";
import { TableKit } from "@tiptap/extension-table";
import { StarterKit } from "@tiptap/starter-kit";

/** What an essay may hold: what the server keeps of it, and nothing more. */
export const essayExtensions = (onFormula: (latex: string, position: number) => void) => [
  StarterKit.configure({
    heading: { levels: [3, 4] },
    link: false,
    codeBlock: false,
    trailingNode: false,
  }),
  TableKit.configure({ table: { resizable: false } }),
  Mathematics.configure({
    inlineOptions: { onClick: (node, position) => onFormula(String(node.attrs.latex), position) },
    katexOptions: { throwOnError: false, trust: false },
  }),
  Image.configure({ inline: false, allowBase64: false }),
];
