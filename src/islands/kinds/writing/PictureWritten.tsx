import { Crop, ImageOff, ImagePlus } from "lucide-react";
import { useId, useRef, useState } from "react";
import { refusalOr } from "@/ui/requests";
import { t } from "@/words/t";
import { type AuthorPicture, useAuthorPictures } from "./author-pictures";
import { CropBox } from "./CropBox";

interface PictureWrittenProps {
  readonly id: string | undefined;
  /** What the picture is for: "a picture for option B". */
  readonly label: string;
  readonly isSmall?: boolean;
  /** The question cannot be without one. */
  readonly isNeeded?: boolean;
  readonly mistake?: string | undefined;
  readonly onPut: (picture: AuthorPicture) => void;
  readonly onRemove: () => void;
}

const TAKEN = "image/png,image/jpeg,image/gif,image/webp";

/** A picture that the author brings, with what it shows in words for who does not see it. */
export function PictureWritten(props: PictureWrittenProps) {
  const { id, label, isSmall = false, isNeeded = false, mistake, onPut, onRemove } = props;
  const pictures = useAuthorPictures();
  const picture = pictures.find(id);
  const input = useRef<HTMLInputElement>(null);
  const field = useId();
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [isCropping, setCropping] = useState(false);
  const bring = async (file: Blob | undefined) => {
    if (!file) return;
    setBusy(true);
    setProblem(null);
    try {
      onPut(await pictures.add(file));
    } catch (error) {
      setProblem(refusalOr(error, t("compose.picture-written.cannot-be-reached")));
    }
    setBusy(false);
  };
  return (
    <div
      className="mt-1"
      onPaste={(event) => {
        const file = [...event.clipboardData.files].find(({ type }) => type.startsWith("image/"));
        if (!file) return;
        event.preventDefault();
        void bring(file);
      }}
    >
      <input
        ref={input}
        id={field}
        type="file"
        accept={TAKEN}
        className="hidden"
        tabIndex={-1}
        onChange={({ target }) => {
          void bring(target.files?.[0]);
          target.value = "";
        }}
      />
      {picture ? (
        <figure className="grid gap-2">
          <img
            src={picture.src}
            alt={picture.alt}
            className={`block h-auto w-auto max-w-full rounded-sm border border-line bg-white ${isSmall ? "max-h-32" : "max-h-[22rem]"}`}
          />
          <label
            className="grid gap-1"
            data-mistake={pictures.mistakeOf(picture.id) !== undefined || undefined}
          >
            <span className="small">{t("compose.picture-written.what-it-shows")}</span>
            <input
              className={`field min-h-9 py-1 ${picture.alt.trim() === "" ? "border-ochre" : ""}`}
              value={picture.alt}
              maxLength={1_000}
              onChange={({ target }) => pictures.describe(picture.id, target.value)}
            />
            {picture.alt.trim() === "" && (
              <span className="text-sm text-ochre">{t("compose.picture-written.say-what-it-shows")}</span>
            )}
          </label>
          <p className="flex flex-wrap gap-2">
            <button type="button" className="button min-h-9! py-1!" onClick={() => setCropping(true)}>
              <Crop aria-hidden="true" className="size-4" /> {t("compose.picture-written.crop")}
            </button>
            <button
              type="button"
              className="button min-h-9! py-1!"
              disabled={busy}
              onClick={() => input.current?.click()}
            >
              {t("compose.picture-written.another")}
            </button>
            {!isNeeded && (
              <button type="button" className="button min-h-9! py-1!" onClick={onRemove}>
                <ImageOff aria-hidden="true" className="size-4" /> {t("compose.picture-written.remove")}
              </button>
            )}
          </p>
          {isCropping && (
            <CropBox
              picture={picture}
              onClose={() => setCropping(false)}
              onCropped={(file) => {
                setCropping(false);
                void bring(file);
              }}
            />
          )}
        </figure>
      ) : (
        <button
          type="button"
          className={isSmall ? "small min-h-6 underline" : "button min-h-9! py-1!"}
          disabled={busy}
          aria-label={label}
          onClick={() => input.current?.click()}
        >
          {!isSmall && <ImagePlus aria-hidden="true" className="size-4" />}
          {busy ? t("ui.confirm.one-moment") : t("compose.picture-written.picture")}
        </button>
      )}
      {(problem ?? mistake) && (
        <p role={problem ? "alert" : undefined} className="mt-1 text-sm text-plum" data-mistake>
          {problem ?? mistake}
        </p>
      )}
    </div>
  );
}
