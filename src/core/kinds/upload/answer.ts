import { type Said, said, saidTogether } from "../../said";
import { accept, fieldOf, partly, refuse } from "../answer-reading";
import { PRESENTED_FIELDS } from "../fields";
import type { AnsweringKind, PresentedCommon } from "../kind";

/** The kinds of files that a question may allow; the server tells a file's kind by its content. */
export const FILE_KINDS = [
  "picture",
  "pdf",
  "text",
  "document",
  "spreadsheet",
  "sound",
  "film",
  "archive",
  "any",
] as const;
export type FileKind = (typeof FILE_KINDS)[number];

const KIND_WORDS: { readonly [K in FileKind]: Said } = {
  picture: said("kinds.picks.options.a-picture"),
  pdf: said("kinds.upload.answer.a-pdf"),
  text: said("kinds.upload.answer.a-plain-text"),
  document: said("kinds.upload.answer.a-text-document"),
  spreadsheet: said("kinds.upload.answer.a-spreadsheet"),
  sound: said("kinds.upload.answer.a-sound-recording"),
  film: said("kinds.upload.answer.a-film"),
  archive: said("kinds.upload.answer.an-archive"),
  any: said("kinds.upload.answer.any-file"),
};

/**
 * "a picture or a PDF".
 * @example allowsInWords(["pdf", "picture"]) → "a PDF or a picture"
 */
export const allowsInWords = (allows: readonly FileKind[]): Said =>
  saidTogether(
    allows.map((kind) => KIND_WORDS[kind]),
    "or",
  );

/**
 * "340 kB", "2.5 MB".
 * @example sizeInWords(1_500_000) → "1.5 MB"
 */
export const sizeInWords = (bytes: number): string =>
  bytes < 1_000_000
    ? `${Math.max(1, Math.round(bytes / 1_000))} kB`
    : `${Math.round(bytes / 100_000) / 10} MB`;

const LONGEST_TEXT_BESIDE = 50_000;

export interface PresentedUpload extends PresentedCommon {
  readonly kind: "upload";
  readonly allows: readonly FileKind[];
  readonly mostFiles: number;
  /** In bytes, for each file. */
  readonly largest: number;
  readonly textBeside: boolean;
}

/** A file that the server has received and looked at. */
export interface UploadedFile {
  /** The server's key of the file. */
  readonly id: string;
  readonly name: string;
  /** In bytes. */
  readonly size: number;
}

export interface UploadAnswer {
  readonly files: readonly UploadedFile[];
  readonly text: string;
}

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;

function isFile(value: unknown): value is UploadedFile {
  const [id, name, size] = ["id", "name", "size"].map((field) => fieldOf(value, field));
  return (
    typeof id === "string" &&
    UUID.test(id) &&
    typeof name === "string" &&
    name.length > 0 &&
    name.length <= 255 &&
    typeof size === "number" &&
    Number.isSafeInteger(size) &&
    size >= 0
  );
}

export const uploadAnswering: AnsweringKind<PresentedUpload, UploadAnswer> = {
  name: "upload",
  fields: PRESENTED_FIELDS,
  instruction: ({ allows, mostFiles, largest, textBeside }) =>
    said("kinds.upload.answer.bring-at-most-other", {
      part:
        mostFiles === 1
          ? said("kinds.upload.answer.a-file")
          : said("kinds.upload.answer.up-to-files", { mostFiles }),
      allowsInWords: allowsInWords(allows),
      sizeInWords: sizeInWords(largest),
      mostFiles,
      beside: textBeside ? said("kinds.upload.answer.write-beside-it-what-belongs-to") : "",
    }),
  readAnswer(presented, raw) {
    if (raw === null) return accept<UploadAnswer>(null);
    const [files, text = ""] = [fieldOf(raw, "files"), fieldOf(raw, "text")];
    if (!Array.isArray(files) || !files.every(isFile))
      return refuse(said("kinds.upload.answer.the-answer-must-list-files-that"));
    if (typeof text !== "string" || text.length > LONGEST_TEXT_BESIDE) {
      return refuse(
        said("kinds.upload.answer.the-text-beside-the-files-takes", {
          most: LONGEST_TEXT_BESIDE,
        }),
      );
    }
    if (text !== "" && !presented.textBeside)
      return refuse(said("kinds.upload.answer.this-question-takes-files-only-no"));
    if (files.length > presented.mostFiles)
      return refuse(said("kinds.upload.answer.hand-in-other-at-most", { mostFiles: presented.mostFiles }));
    const tooLarge = files.find((file) => file.size > presented.largest);
    if (tooLarge)
      return refuse(
        said("kinds.upload.answer.is-too-large-at-most", {
          name: tooLarge.name.slice(0, 40),
          sizeInWords: sizeInWords(presented.largest),
        }),
      );
    if (new Set(files.map((file) => file.id)).size < files.length)
      return refuse(said("kinds.upload.answer.a-file-stands-twice-in-the"));
    const read = files.map(({ id, name, size }) => ({ id, name, size }));
    return accept(read.length > 0 || text.trim() !== "" ? { files: read, text } : null);
  },
  fill(_, answer) {
    if (!answer) return { state: "empty", words: said("kinds.common.empty") };
    if (answer.files.length === 0) return partly(1, 2, said("kinds.upload.answer.text-but-no-file"));
    return { state: "full", words: said("count.files", { count: answer.files.length }) };
  },
  summary: (_, answer) =>
    [...(answer?.files.map((file) => file.name) ?? []), answer?.text.trim().slice(0, 60)]
      .filter(Boolean)
      .join(" · "),
};
