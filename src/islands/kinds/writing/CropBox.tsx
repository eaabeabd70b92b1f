import { Dialog } from "radix-ui";
import { type PointerEvent, useRef, useState } from "react";
import { t } from "@/words/t";
import type { AuthorPicture } from "./author-pictures";

interface CropBoxProps {
  readonly picture: AuthorPicture;
  readonly onCropped: (file: Blob) => void;
  readonly onClose: () => void;
}

/** What is kept of a picture, in shares of its width and height. */
interface Cut {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

const WHOLE: Cut = { left: 0, top: 0, right: 1, bottom: 1 };
/** No side is cut to less. */
const LEAST = 0.05;
/** The cut picture is drawn no larger, in points. */
const LARGEST_SIDE = 2_400;

/** Cuts a picture to what is to be seen of it: with the pointer, or by a figure for each side. */
export function CropBox({ picture, onCropped, onClose }: CropBoxProps) {
  const [cut, setCut] = useState(WHOLE);
  const image = useRef<HTMLImageElement>(null);
  const began = useRef<{ x: number; y: number } | null>(null);
  const at = (event: PointerEvent) => {
    const box = image.current?.getBoundingClientRect();
    if (!box) return { x: 0, y: 0 };
    const share = (from: number, size: number, value: number) =>
      Math.min(1, Math.max(0, (value - from) / size));
    return { x: share(box.left, box.width, event.clientX), y: share(box.top, box.height, event.clientY) };
  };
  const draw = (event: PointerEvent) => {
    const from = began.current;
    if (!from) return;
    const to = at(event);
    const [left, right] = [Math.min(from.x, to.x), Math.max(from.x, to.x)];
    const [top, bottom] = [Math.min(from.y, to.y), Math.max(from.y, to.y)];
    if (right - left >= LEAST && bottom - top >= LEAST) setCut({ left, right, top, bottom });
  };
  const sides = [
    { side: "left", words: t("compose.crop-box.left") },
    { side: "top", words: t("compose.crop-box.top") },
    { side: "right", words: t("compose.crop-box.right") },
    { side: "bottom", words: t("compose.crop-box.bottom") },
  ] as const;
  const isFar = (side: keyof Cut) => side === "right" || side === "bottom";
  const off = (side: keyof Cut) => Math.round((isFar(side) ? 1 - cut[side] : cut[side]) * 100);
  const setOff = (side: keyof Cut, text: string) => {
    const share = Math.min(95, Math.max(0, Number(text) || 0)) / 100;
    const next = { ...cut, [side]: isFar(side) ? 1 - share : share };
    if (next.right - next.left >= LEAST && next.bottom - next.top >= LEAST) setCut(next);
  };
  const crop = () => {
    const source = image.current;
    if (!source) return;
    const [width, height] = [
      (cut.right - cut.left) * source.naturalWidth,
      (cut.bottom - cut.top) * source.naturalHeight,
    ];
    const scale = Math.min(1, LARGEST_SIDE / Math.max(width, height));
    const canvas = document.createElement("canvas");
    canvas.width = Math.max(1, Math.round(width * scale));
    canvas.height = Math.max(1, Math.round(height * scale));
    canvas
      .getContext("2d")
      ?.drawImage(
        source,
        cut.left * source.naturalWidth,
        cut.top * source.naturalHeight,
        width,
        height,
        0,
        0,
        canvas.width,
        canvas.height,
      );
    canvas.toBlob((file) => file && onCropped(file), "image/png");
  };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="veil" />
        <Dialog.Content className="sheet dialog max-w-2xl">
          <Dialog.Title className="font-read text-xl font-medium">{t("compose.crop-box.title")}</Dialog.Title>
          <Dialog.Description className="small mt-1">{t("compose.crop-box.how")}</Dialog.Description>
          <div
            className="relative mt-3 w-fit touch-none select-none"
            onPointerDown={(event) => {
              began.current = at(event);
              event.currentTarget.setPointerCapture(event.pointerId);
            }}
            onPointerMove={draw}
            onPointerUp={() => {
              began.current = null;
            }}
          >
            <img
              ref={image}
              src={picture.src}
              alt={picture.alt}
              draggable={false}
              className="block max-h-[50vh] w-auto max-w-full"
            />
            <div
              aria-hidden="true"
              className="pointer-events-none absolute outline-2 outline-indigo"
              style={{
                left: `${cut.left * 100}%`,
                top: `${cut.top * 100}%`,
                width: `${(cut.right - cut.left) * 100}%`,
                height: `${(cut.bottom - cut.top) * 100}%`,
                boxShadow: "0 0 0 100vmax rgb(0 0 0 / 0.45)",
                clipPath: "inset(-100vmax)",
              }}
            />
          </div>
          <div className="mt-4 flex flex-wrap gap-3">
            {sides.map(({ side, words }) => (
              <label key={side} className="grid gap-1">
                <span className="small">{words}</span>
                <input
                  type="number"
                  className="field w-24"
                  min={0}
                  max={95}
                  value={off(side)}
                  onChange={({ target }) => setOff(side, target.value)}
                />
              </label>
            ))}
          </div>
          <div className="mt-5 flex flex-wrap justify-end gap-3">
            <Dialog.Close className="button">{t("compose.crop-box.not-now")}</Dialog.Close>
            <button type="button" className="button button-main" onClick={crop}>
              {t("compose.crop-box.crop-it")}
            </button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
