import type { Editor } from "@tiptap/core";
import { useEditorState } from "@tiptap/react";
import { type Said, said } from "@/core/said";
import { say, t } from "@/words/t";
import { PICTURE_SIZES, type PictureSize } from "./extensions";

const WORDS: { readonly [S in PictureSize]: Said } = {
  small: said("kinds.essay.picture-tools.a-third-of-the-width"),
  half: said("kinds.essay.picture-tools.half-the-width"),
  full: said("kinds.essay.picture-tools.the-whole-width"),
};

/** The size of the picture that is chosen, what is written below it, and what it shows for who does not see it. */
export function PictureTools({ editor }: { readonly editor: Editor }) {
  const { size, caption, alt } = useEditorState({
    editor,
    selector: ({ editor: each }) => {
      const attributes = each.getAttributes("image");
      return {
        size: (attributes.size ?? "half") as PictureSize,
        caption: String(attributes.caption ?? ""),
        alt: String(attributes.alt ?? ""),
      };
    },
  });
  const set = (change: Record<string, string>) => editor.commands.updateAttributes("image", change);
  return (
    // biome-ignore lint/a11y/useSemanticElements: tools of one picture are no field set
    <div
      role="group"
      aria-label={t("kinds.essay.picture-tools.picture")}
      className="flex flex-wrap items-end gap-3 border-t border-line px-2 py-2 text-[0.8125rem]"
    >
      <label className="grid gap-0.5">
        {t("kinds.essay.picture-tools.size")}
        <select
          className="field min-h-8! py-0.5!"
          value={size}
          onChange={(event) => set({ size: event.target.value })}
        >
          {PICTURE_SIZES.map((each) => (
            <option key={each} value={each}>
              {say(WORDS[each])}
            </option>
          ))}
        </select>
      </label>
      <label className="grid min-w-40 flex-1 gap-0.5">
        {t("kinds.essay.picture-tools.below-the-picture")}
        <input
          className="field min-h-8! py-0.5!"
          value={caption}
          maxLength={300}
          onChange={(event) => set({ caption: event.target.value })}
        />
      </label>
      <label className="grid min-w-40 flex-1 gap-0.5">
        {t("kinds.essay.picture-tools.what-it-shows-in-words")}
        <input
          className="field min-h-8! py-0.5!"
          value={alt}
          maxLength={300}
          onChange={(event) => set({ alt: event.target.value })}
        />
      </label>
    </div>
  );
}
