import { useEffect, useRef, useState } from "react";
import { t } from "@/words/t";
import { drawPage, openPdf } from "./pdf-pages";
import { previewOf } from "./previews";

interface FilePreviewProps {
  readonly name: string;
  /** Where the file is. */
  readonly address: string;
}

/** Of a text so much is shown, in characters. */
const TEXT_SHOWN = 4_000;
/** A page is drawn so wide, in the screen's own points. */
const PREVIEW_WIDTH = 480;

/** A file where it stands, as far as browsers show such files: a picture, sound, film, a text, the pages of a PDF. */
export function FilePreview({ name, address }: FilePreviewProps) {
  const [failed, setFailed] = useState(false);
  const kind = failed ? null : previewOf(name);
  const fails = () => setFailed(true);
  switch (kind) {
    case "picture":
      return (
        <a href={address} target="_blank" rel="noopener">
          <img
            src={address}
            alt={t("files.file-preview.as-your-instructor-will-see-it", { name })}
            className="h-24 w-32 rounded-sm border border-line bg-white object-contain"
            onError={fails}
          />
        </a>
      );
    case "sound":
      return (
        // biome-ignore lint/a11y/useMediaCaption: it is the student's own, and has no captions
        <audio
          controls
          preload="metadata"
          src={address}
          aria-label={name}
          className="h-10 max-w-full"
          onError={fails}
        />
      );
    case "film":
      return (
        // biome-ignore lint/a11y/useMediaCaption: it is the student's own, and has no captions
        <video
          controls
          preload="metadata"
          src={address}
          aria-label={name}
          className="max-h-64 max-w-full rounded-sm border border-line bg-sunk"
          onError={fails}
        />
      );
    case "text":
      return <TextPreview name={name} address={address} onFail={fails} />;
    case "pdf":
      return <PdfPreview name={name} address={address} onFail={fails} />;
    default:
      return null;
  }
}

interface InnerProps extends FilePreviewProps {
  readonly onFail: () => void;
}

function TextPreview({ name, address, onFail }: InnerProps) {
  const [text, setText] = useState<string | null>(null);
  const failed = useRef(onFail);
  failed.current = onFail;
  useEffect(() => {
    const stop = new AbortController();
    fetch(address, { signal: stop.signal })
      .then(async (answer) =>
        answer.ok ? setText((await answer.text()).slice(0, TEXT_SHOWN + 1)) : failed.current(),
      )
      .catch(() => stop.signal.aborted || failed.current());
    return () => stop.abort();
  }, [address]);
  return (
    <section aria-label={name} className="w-full">
      <pre
        // biome-ignore lint/a11y/noNoninteractiveTabindex: a text that scrolls is scrolled by keys too
        tabIndex={0}
        className="max-h-48 overflow-auto rounded-sm border border-line bg-sheet p-3 text-[0.8125rem] whitespace-pre-wrap"
      >
        {text === null ? "…" : text.length > TEXT_SHOWN ? `${text.slice(0, TEXT_SHOWN)} …` : text}
      </pre>
    </section>
  );
}

/** The pages of a PDF, one at a time. What draws them is loaded when there is one. */
function PdfPreview({ name, address, onFail }: InnerProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [page, setPage] = useState(1);
  const [pages, setPages] = useState<number | null>(null);
  const failed = useRef(onFail);
  failed.current = onFail;
  useEffect(() => {
    let gone = false;
    let close = () => {};
    const draw = async () => {
      const opened = await openPdf(address);
      close = opened.close;
      const place = canvas.current;
      if (gone || !place) return;
      setPages(opened.document.numPages);
      await drawPage(opened.document, Math.min(page, opened.document.numPages), place, PREVIEW_WIDTH);
    };
    draw().catch(() => gone || failed.current());
    return () => {
      gone = true;
      close();
    };
  }, [address, page]);
  return (
    <div className="w-full max-w-[20rem]">
      <canvas
        ref={canvas}
        role="img"
        aria-label={
          pages === null
            ? t("files.file-preview.page", { name, page })
            : t("files.file-preview.page-of", { name, page, pages })
        }
        className="aspect-[210/297] w-full rounded-sm border border-line bg-white"
      />
      {pages !== null && pages > 1 && (
        <p className="small mt-1 flex items-center justify-between gap-3">
          <button
            type="button"
            className="min-h-6 underline disabled:no-underline"
            disabled={page <= 1}
            onClick={() => setPage(page - 1)}
          >
            {t("files.file-preview.page-before")}
          </button>
          <span>{t("files.file-preview.of", { page, pages })}</span>
          <button
            type="button"
            className="min-h-6 underline disabled:no-underline"
            disabled={page >= pages}
            onClick={() => setPage(page + 1)}
          >
            {t("files.file-preview.next-page")}
          </button>
        </p>
      )}
    </div>
  );
}
