import { counted } from "../../time/words";
import { PRESENTED_FIELDS } from "../fields";
import type { AnsweringKind, PresentedCommon } from "../kind";
import { accept, fieldOf, partly, refuse } from "../reading";

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

const KIND_WORDS: { readonly [K in FileKind]: string } = {
  picture: "a picture",
  pdf: "a PDF",
  text: "a plain text",
  document: "a text document",
  spreadsheet: "a spreadsheet",
  sound: "a sound recording",
  film: "a film",
  archive: "an archive",
  any: "any file",
};

/** "a picture or a PDF". */
export const allowsInWords = (allows: readonly FileKind[]): string =>
  allows.map((kind) => KIND_WORDS[kind]).join(" or ");

/** "340 kB", "2.5 MB". */
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
    `Bring ${mostFiles === 1 ? "a file" : `up to ${mostFiles} files`}: ${allowsInWords(allows)}, ${sizeInWords(largest)} at most${mostFiles === 1 ? "" : " each"}${textBeside ? "; write beside it what belongs to it" : ""}.`,
  readAnswer(presented, raw) {
    if (raw === null) return accept<UploadAnswer>(null);
    const [files, text = ""] = [fieldOf(raw, "files"), fieldOf(raw, "text")];
    if (!Array.isArray(files) || !files.every(isFile))
      return refuse("The answer must list files that were uploaded.");
    if (typeof text !== "string" || text.length > LONGEST_TEXT_BESIDE) {
      return refuse(`The text beside the files takes ${LONGEST_TEXT_BESIDE} characters at most.`);
    }
    if (text !== "" && !presented.textBeside)
      return refuse("This question takes files only, no text beside them.");
    if (files.length > presented.mostFiles)
      return refuse(`Hand in ${counted(presented.mostFiles, "file")} at most.`);
    const tooLarge = files.find((file) => file.size > presented.largest);
    if (tooLarge)
      return refuse(
        `“${tooLarge.name.slice(0, 40)}” is too large: ${sizeInWords(presented.largest)} at most.`,
      );
    if (new Set(files.map((file) => file.id)).size < files.length)
      return refuse("A file stands twice in the answer.");
    const kept = files.map(({ id, name, size }) => ({ id, name, size }));
    return accept(kept.length > 0 || text.trim() !== "" ? { files: kept, text } : null);
  },
  fill(_, answer) {
    if (!answer) return { state: "empty", words: "empty" };
    if (answer.files.length === 0) return partly(1, 2, "text, but no file");
    return { state: "full", words: counted(answer.files.length, "file") };
  },
  summary: (_, answer) =>
    [...(answer?.files.map((file) => file.name) ?? []), answer?.text.trim().slice(0, 60)]
      .filter(Boolean)
      .join(" · "),
};
