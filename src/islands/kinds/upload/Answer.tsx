import { Camera, FileUp } from "lucide-react";
import { type DragEvent, useContext, useRef, useState } from "react";
import { filePath } from "@/core/attempt/paths";
import {
  type FileKind,
  type PresentedUpload,
  sizeInWords,
  type UploadAnswer,
  type UploadedFile,
} from "@/core/kinds/upload/answer";
import { t } from "@/words/t";
import { FilePreview } from "../../files/FilePreview";
import type { PendingFile } from "../../keeping/file-queue";
import type { AnswerProps } from "../answer-props";
import { useComposed } from "../composed";
import { AnswerLanguage } from "../view-contexts";

/** What the browser offers first when files are picked; the server looks at the content all the same. */
const OFFERS: { readonly [K in FileKind]: string } = {
  picture: "image/*",
  pdf: "application/pdf",
  text: "text/*",
  document: ".docx,.odt,.rtf,.doc,.txt",
  spreadsheet: ".xlsx,.ods,.xls,.csv",
  sound: "audio/*",
  film: "video/*",
  archive: ".zip,.gz,.7z,.tar",
  any: "",
};
/** Files to hand in, with how far each has got, what the instructor will see, and the text beside. */
export function UploadView(props: AnswerProps<PresentedUpload, UploadAnswer>) {
  const language = useContext(AnswerLanguage);
  const { attemptId, slot, question, answer, files: pending, closed, onFile, onFileDone } = props;
  const { onChoose, onType, onLeave } = props;
  const [over, setOver] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const picker = useRef<HTMLInputElement>(null);
  const camera = useRef<HTMLInputElement>(null);
  const files = answer?.files ?? [];
  const text = answer?.text ?? "";
  const onTheWay = pending.filter(({ state }) => state !== "refused").length;
  const room = question.mostFiles - files.length - onTheWay;
  const accept = question.allows.includes("any")
    ? undefined
    : question.allows.map((kind) => OFFERS[kind]).join(",");
  const takesPictures = question.allows.includes("picture") || question.allows.includes("any");

  const bring = (list: FileList | null) => {
    const chosen = [...(list ?? [])];
    const tooLarge = chosen.find((file) => file.size > question.largest);
    const empty = chosen.find((file) => file.size === 0);
    if (chosen.length > room) {
      setProblem(
        room === 0
          ? t("kinds.upload.answer.there-remove-one-first", {
              part:
                question.mostFiles === 1
                  ? t("kinds.upload.answer.is-already-a-file")
                  : t("kinds.upload.answer.are-already-files", { mostFiles: question.mostFiles }),
            })
          : t("kinds.upload.answer.you-can-bring-more-here-were", { room, chosenCount: chosen.length }),
      );
    } else if (tooLarge) {
      setProblem(
        t("kinds.upload.answer.has-is-the-most-a-smaller", {
          name: tooLarge.name,
          sizeInWords: sizeInWords(tooLarge.size),
          sizeInWords2: sizeInWords(question.largest),
        }),
      );
    } else if (empty) setProblem(t("kinds.upload.answer.is-empty", { name: empty.name }));
    else {
      setProblem(null);
      for (const file of chosen) onFile(file);
    }
    for (const input of [picker.current, camera.current]) if (input) input.value = "";
  };
  const keep = (next: Partial<UploadAnswer>, how: (answer: UploadAnswer | null) => void) => {
    const whole = { files, text, ...next };
    how(whole.files.length > 0 || whole.text.trim() !== "" ? whole : null);
  };
  const beside = useComposed(text, (next) => keep({ text: next }, onType));
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    if (!closed) bring(event.dataTransfer.files);
  };

  return (
    <div className="border-t border-line pt-3">
      {/* biome-ignore lint/a11y/noStaticElementInteractions: dropping is a third way beside two buttons */}
      <div
        className={`rounded-md border-2 border-dashed px-5 py-5 ${over ? "border-indigo bg-indigo-2" : "border-line-2"}`}
        onDragOver={(event) => {
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={drop}
      >
        <div className="flex flex-wrap items-center gap-3">
          <button
            type="button"
            className="button"
            disabled={room <= 0}
            onClick={() => picker.current?.click()}
          >
            <FileUp aria-hidden="true" className="size-4" />
            {t("kinds.upload.answer.choose-other", { mostFiles: question.mostFiles })}
          </button>
          {takesPictures && (
            <button
              type="button"
              className="button pointer-fine:hidden"
              disabled={room <= 0}
              onClick={() => camera.current?.click()}
            >
              <Camera aria-hidden="true" className="size-4" />
              {t("kinds.upload.answer.photograph")}
            </button>
          )}
          <p className="small max-sm:hidden">
            {t("kinds.upload.answer.or-drop-other-here", { mostFiles: question.mostFiles })}
          </p>
        </div>
        <input
          ref={picker}
          type="file"
          className="hidden"
          aria-label={t("kinds.upload.answer.files-for-question", { slot })}
          multiple={question.mostFiles > 1}
          accept={accept}
          onChange={(event) => bring(event.target.files)}
        />
        <input
          ref={camera}
          type="file"
          className="hidden"
          aria-label={t("kinds.upload.answer.photograph-for-question", { slot })}
          accept="image/*"
          capture="environment"
          onChange={(event) => bring(event.target.files)}
        />
        {problem && (
          <p role="alert" className="mt-3 text-plum">
            {problem}
          </p>
        )}
      </div>
      <ul aria-label={t("kinds.upload.answer.your-files")} className="mt-4 grid gap-3">
        {files.map((file) => (
          <Kept
            key={file.id}
            file={file}
            address={filePath(attemptId, file.id)}
            onRemove={() => keep({ files: files.filter(({ id }) => id !== file.id) }, onChoose)}
          />
        ))}
        {pending.map((file) => (
          <OnTheWay key={file.id} file={file} onDone={() => onFileDone(file.id)} />
        ))}
      </ul>
      {question.textBeside && (
        <label className="mt-4 block">
          <span className="small font-bold">
            {t("kinds.upload.answer.beside-your-other", { mostFiles: question.mostFiles })}
          </span>
          <textarea lang={language} className="field mt-1 min-h-28 font-read" {...beside} onBlur={onLeave} />
        </label>
      )}
    </div>
  );
}

/** A file that the server has: shown as the instructor will see it. */
function Kept({
  file,
  address,
  onRemove,
}: {
  readonly file: UploadedFile;
  readonly address: string;
  readonly onRemove: () => void;
}) {
  return (
    <li className="flex flex-wrap items-start gap-4 border-b border-line pb-3">
      <FilePreview name={file.name} address={address} />
      <div className="min-w-0 flex-1">
        <p className="truncate font-bold" title={file.name}>
          {file.name}
        </p>
        <p className="small">
          {t("kinds.upload.answer.on-the-server", { sizeInWords: sizeInWords(file.size) })}
        </p>
        <p className="mt-1 flex flex-wrap gap-x-4">
          <a className="inline-block py-1 underline" href={address} target="_blank" rel="noopener">
            {t("kinds.upload.answer.look-at-it")}
            <span className="sr-only">
              {t("kinds.upload.answer.as-your-instructor-will-see-it", { name: file.name })}
            </span>
          </a>
          <button type="button" className="py-1 underline" onClick={onRemove}>
            {t("kinds.common.remove")}
            <span className="sr-only"> {file.name}</span>
          </button>
        </p>
      </div>
    </li>
  );
}

function OnTheWay({ file, onDone }: { readonly file: PendingFile; readonly onDone: () => void }) {
  const share = Math.floor((file.sent / Math.max(1, file.size)) * 100);
  const words =
    file.state === "refused"
      ? (file.problem ?? t("kinds.upload.answer.it-was-not-taken"))
      : file.state === "unreachable"
        ? t("kinds.upload.answer.is-there-it-goes-on-by", { share })
        : t("kinds.upload.answer.of", { share, sizeInWords: sizeInWords(file.size) });
  return (
    <li className="border-b border-line pb-3">
      <div className="flex items-baseline justify-between gap-4">
        <p className="min-w-0 truncate font-bold">{file.name}</p>
        <button type="button" className="py-1 underline" onClick={onDone}>
          {file.state === "refused"
            ? t("kinds.upload.answer.i-have-read-it")
            : t("kinds.upload.answer.cancel")}
          <span className="sr-only">: {file.name}</span>
        </button>
      </div>
      {file.state !== "refused" && (
        <progress
          className="mt-1 h-1.5 w-full accent-indigo"
          value={share}
          max={100}
          aria-label={file.name}
        />
      )}
      <p
        role="status"
        className={`text-[0.8125rem] ${file.state === "refused" ? "text-plum" : "text-ink-2"}`}
      >
        {words}
      </p>
    </li>
  );
}
