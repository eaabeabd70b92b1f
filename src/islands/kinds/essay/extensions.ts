import { Image } from "@tiptap/extension-image";
import { Mathematics } from "@tiptap/extension-mathematics";
import { TableKit } from "@tiptap/extension-table";
import { StarterKit } from "@tiptap/starter-kit";

/** How wide a picture stands in an essay. */
export const PICTURE_SIZES = ["small", "half", "full"] as const;
export type PictureSize = (typeof PICTURE_SIZES)[number];

/** A picture with its size and what is written below it. */
const Picture = Image.extend({
  addAttributes() {
    return {
      ...this.parent?.(),
      size: { default: "half", rendered: false },
      caption: { default: "", rendered: false },
    };
  },
  parseHTML() {
    return [
      {
        tag: "figure",
        getAttrs: (figure) => {
          const image = figure.querySelector("img");
          if (!image) return false;
          const size = PICTURE_SIZES.find((each) => each === figure.dataset.size) ?? "half";
          const caption = figure.querySelector("figcaption")?.textContent ?? "";
          return { src: image.getAttribute("src"), alt: image.getAttribute("alt"), size, caption };
        },
      },
      { tag: "img[src]" },
    ];
  },
  renderHTML({ node, HTMLAttributes }) {
    const { size, caption } = node.attrs as { size: PictureSize; caption: string };
    const image = ["img", HTMLAttributes] as const;
    return caption === ""
      ? ["figure", { "data-size": size }, image]
      : ["figure", { "data-size": size }, image, ["figcaption", {}, caption]];
  },
});

/** What an essay may hold: what the server keeps of it, and nothing more. */
export const essayExtensions = (onFormula: (latex: string, position: number) => void) => [
  StarterKit.configure({
    heading: { levels: [3, 4] },
    link: { openOnClick: false, autolink: false, protocols: ["https", "mailto"], defaultProtocol: "https" },
    codeBlock: false,
    trailingNode: false,
  }),
  TableKit.configure({ table: { resizable: false } }),
  Mathematics.configure({
    inlineOptions: { onClick: (node, position) => onFormula(String(node.attrs.latex), position) },
    katexOptions: { throwOnError: false, trust: false },
  }),
  Picture.configure({ inline: false, allowBase64: false }),
];
