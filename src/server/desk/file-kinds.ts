import { fileTypeFromStream } from "file-type";
import type { FileKind } from "@/core/kinds/upload/answer";

const TEXT = "text/plain";
const DOCUMENTS = /wordprocessingml|opendocument\.text|\/rtf$|x-cfb$|msword/;
const SPREADSHEETS = /spreadsheetml|opendocument\.spreadsheet|x-cfb$|ms-excel/;
const ARCHIVES = /\/(zip|gzip|x-7z-compressed|x-tar|x-bzip2|x-xz|vnd\.rar|x-rar-compressed|zstd)$/;

/** Whether bytes, as they come, can be read as text: UTF-8 without control characters that no text has. */
async function isText(pieces: AsyncIterable<Uint8Array>): Promise<boolean> {
  const decoder = new TextDecoder("utf-8", { fatal: true });
  try {
    for await (const piece of pieces) {
      if (piece.includes(0)) return false;
      decoder.decode(piece, { stream: true });
    }
    decoder.decode();
    return true;
  } catch (error) {
    if (error instanceof TypeError) return false;
    throw error;
  }
}

/** Pieces as a stream that reads no further than it is read, and may be left in the middle. */
const streamOf = (pieces: AsyncGenerator<Uint8Array>): ReadableStream<Uint8Array> =>
  new ReadableStream({
    async pull(controller) {
      const { done, value } = await pieces.next();
      if (done) controller.close();
      else controller.enqueue(value);
    },
    async cancel() {
      await pieces.return(undefined);
    },
  });

/**
 * The media type of a file, told by its content and never by its name; what is unknown is "application/octet-stream". The
 * content is given anew each time it is asked for, piece by piece: a large file is never held whole.
 */
export async function typeByContent(content: () => AsyncGenerator<Uint8Array>): Promise<string> {
  const found = await fileTypeFromStream(streamOf(content()));
  if (found) return found.mime;
  return (await isText(content())) ? TEXT : "application/octet-stream";
}

const IS: { readonly [K in FileKind]: (type: string) => boolean } = {
  // Only what browsers draw by themselves, so that a marker sees it too.
  picture: (type) => /^image\/(png|jpeg|gif|webp|avif|bmp|apng)$/.test(type),
  pdf: (type) => type === "application/pdf",
  text: (type) => type === TEXT,
  document: (type) => DOCUMENTS.test(type) || type === TEXT,
  spreadsheet: (type) => SPREADSHEETS.test(type) || type === TEXT,
  sound: (type) => type.startsWith("audio/"),
  film: (type) => type.startsWith("video/"),
  archive: (type) => ARCHIVES.test(type),
  any: () => true,
};

/** Whether a media type is among the kinds that a question allows. */
export const isAllowed = (type: string, allows: readonly FileKind[]): boolean =>
  allows.some((kind) => IS[kind](type));
