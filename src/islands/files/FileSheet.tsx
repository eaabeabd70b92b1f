import type { PDFDocumentProxy } from "pdfjs-dist";
import { useEffect, useRef, useState } from "react";
import { sizeInWords } from "@/core/kinds/upload/answer";
import { t } from "@/words/t";
import { type PageBox, PageMarks } from "./PageMarks";
import { drawPage, openPdf } from "./pdf-pages";

/** A note that is pinned to a place of a file. */
export interface PageNote extends PageBox {
  readonly number: number;
  readonly page: number;
  readonly text: string;
}

interface FileSheetProps {
  readonly name: string;
  /** In bytes. */
  readonly size: number;
  /** As its content says: "application/pdf". */
  readonly type: string;
  readonly address: string;
  readonly notes: readonly PageNote[];
  readonly onPlace?: (page: number, box: PageBox) => void;
}

/** Of a text so much is shown, in characters. */
const TEXT_SHOWN = 40_000;
/** Pages of a PDF are drawn so wide, in the screen's own points. */
const PAGE_WIDTH = 720;
/** More pages than this are not all drawn at once. */
const PAGES_AT_ONCE = 6;

/**
 * A file that was handed in, whole, where browsers can show it: a picture and the pages of a PDF with the notes that are pinned to
 * them; a text; sound and film by the browser's own players. What cannot be shown is offered for download.
 */
export function FileSheet(props: FileSheetProps) {
  const { name, size, type, address } = props;
  const [failed, setFailed] = useState(false);
  return (
    <figure className="border-t border-line pt-3">
      <figcaption className="mb-2 flex flex-wrap items-baseline justify-between gap-x-4">
        <b className="min-w-0 truncate">{name}</b>
        <span className="small">
          {sizeInWords(size)} ·{" "}
          <a className="inline-block py-1 underline" href={`${address}?download`}>
            {t("files.file-sheet.download")}
            <span className="sr-only"> {name}</span>
          </a>
        </span>
      </figcaption>
      {failed ? <NotShown /> : <Shown {...props} kind={type} onFail={() => setFailed(true)} />}
    </figure>
  );
}

const NotShown = () => <p className="text-ink-2">{t("files.file-sheet.it-cannot-be-shown-here")}</p>;

interface ShownProps extends FileSheetProps {
  readonly kind: string;
  readonly onFail: () => void;
}

function Shown(props: ShownProps) {
  const { name, kind, address, notes, onPlace, onFail } = props;
  if (/^image\/(png|jpeg|gif|webp|avif|bmp|apng)$/.test(kind)) {
    return (
      <PageMarks
        marks={marksOn(notes, 1)}
        {...(onPlace ? { onPlace: (box: PageBox) => onPlace(1, box) } : {})}
      >
        <img
          src={address}
          alt={name}
          draggable={false}
          className="block h-auto max-w-full rounded-sm border border-line bg-white"
          onError={onFail}
        />
      </PageMarks>
    );
  }
  if (kind === "application/pdf") return <PdfSheet {...props} />;
  if (kind.startsWith("text/plain")) return <TextSheet {...props} />;
  if (kind.startsWith("audio/"))
    return (
      // biome-ignore lint/a11y/useMediaCaption: it is the student's own, and has no captions
      <audio
        controls
        preload="metadata"
        src={address}
        aria-label={name}
        className="w-full"
        onError={onFail}
      />
    );
  if (kind.startsWith("video/"))
    return (
      // biome-ignore lint/a11y/useMediaCaption: it is the student's own, and has no captions
      <video
        controls
        preload="metadata"
        src={address}
        aria-label={name}
        className="max-h-[70dvh] max-w-full rounded-sm border border-line bg-sunk"
        onError={onFail}
      />
    );
  return <NotShown />;
}

const marksOn = (notes: readonly PageNote[], page: number) =>
  notes
    .filter((note) => note.page === page)
    .map(({ number, text, x, y, width, height }) => ({
      number,
      label: t("files.file-sheet.note", { number, text }),
      x,
      y,
      width,
      height,
    }));

function TextSheet({ name, address, onFail }: ShownProps) {
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
    <section aria-label={name}>
      <pre
        // biome-ignore lint/a11y/noNoninteractiveTabindex: a text that scrolls is scrolled by keys too
        tabIndex={0}
        className="max-h-[60dvh] overflow-auto rounded-sm border border-line bg-sheet p-4 text-[0.875rem] whitespace-pre-wrap"
      >
        {text === null ? "…" : text.length > TEXT_SHOWN ? `${text.slice(0, TEXT_SHOWN)} …` : text}
      </pre>
    </section>
  );
}

/** The pages of a PDF, one below the other. */
function PdfSheet({ name, address, notes, onPlace, onFail }: ShownProps) {
  const [document, setDocument] = useState<PDFDocumentProxy | null>(null);
  const [shown, setShown] = useState(PAGES_AT_ONCE);
  const failed = useRef(onFail);
  failed.current = onFail;
  useEffect(() => {
    let gone = false;
    let close = () => {};
    openPdf(address)
      .then((opened) => {
        close = opened.close;
        if (gone) close();
        else setDocument(opened.document);
      })
      .catch(() => gone || failed.current());
    return () => {
      gone = true;
      close();
    };
  }, [address]);
  if (!document)
    return <div className="aspect-[210/297] w-full max-w-[45rem] rounded-sm border border-line bg-white" />;
  const pages = document.numPages;
  return (
    <div className="grid gap-3">
      {Array.from({ length: Math.min(pages, shown) }, (_, i) => (
        <PageMarks
          // biome-ignore lint/suspicious/noArrayIndexKey: a page is its number
          key={i}
          marks={marksOn(notes, i + 1)}
          {...(onPlace ? { onPlace: (box: PageBox) => onPlace(i + 1, box) } : {})}
        >
          <PdfPage
            document={document}
            number={i + 1}
            label={t("files.file-preview.page-of", { name, page: i + 1, pages })}
            onFail={() => failed.current()}
          />
        </PageMarks>
      ))}
      {pages > shown && (
        <button
          type="button"
          className="button justify-self-start"
          onClick={() => setShown(shown + PAGES_AT_ONCE)}
        >
          {t("files.file-sheet.more-pages", { left: pages - shown })}
        </button>
      )}
    </div>
  );
}

interface PdfPageProps {
  readonly document: PDFDocumentProxy;
  readonly number: number;
  readonly label: string;
  readonly onFail: () => void;
}

function PdfPage({ document, number, label, onFail }: PdfPageProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const failed = useRef(onFail);
  failed.current = onFail;
  useEffect(() => {
    let gone = false;
    const place = canvas.current;
    if (place) drawPage(document, number, place, PAGE_WIDTH).catch(() => gone || failed.current());
    return () => {
      gone = true;
    };
  }, [document, number]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={label}
      data-page={number}
      className="block h-auto w-[45rem] max-w-full rounded-sm border border-line bg-white"
    />
  );
}
