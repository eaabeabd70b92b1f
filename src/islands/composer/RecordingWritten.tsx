import { useRef, useState } from "react";
import { type DraftPiece, type RecordingPiece, recordingsOf } from "@/core/draft/pieces";
import { refusalOr } from "@/ui/requests";
import { t } from "@/words/t";
import { PlainField } from "../kinds/writing/fields";
import { stepNames } from "../kinds/writing/step-names";
import { WrittenText } from "../kinds/writing/WrittenText";
import type { ComposerStore } from "./composer-store";
import { assetPath, bringFile } from "./use-pictures";

interface RecordingWrittenProps {
  readonly store: ComposerStore;
  /** The id of the recording that the question plays. */
  readonly id: string | undefined;
  readonly language: string | undefined;
  readonly onPut: (id: string, slot: number, piece: DraftPiece) => void;
  readonly onRemove: () => void;
}

/** The width of a film through its height, as the browser tells it. */
const aspectOf = (file: Blob): Promise<number> =>
  new Promise((resolve) => {
    const film = document.createElement("video");
    const address = URL.createObjectURL(file);
    const done = () => {
      URL.revokeObjectURL(address);
      resolve(film.videoHeight > 0 ? film.videoWidth / film.videoHeight : 16 / 9);
    };
    film.onloadedmetadata = done;
    film.onerror = done;
    film.src = address;
  });

/** A sound or a film below the question, with its words for who does not hear or see it. */
export function RecordingWritten({ store, id, language, onPut, onRemove }: RecordingWrittenProps) {
  const input = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const found = id === undefined ? undefined : recordingsOf(store.state().pieces).get(id);
  const bring = async (file: File | undefined) => {
    if (!file) return;
    setBusy(true);
    setProblem(null);
    try {
      const { asset, type } = await bringFile(store.path, file);
      const isFilm = type.startsWith("video/");
      const name = store.newName("rec");
      onPut(name, store.newSlot(), {
        piece: "recording",
        recording: {
          id: name,
          kind: isFilm ? "film" : "sound",
          title: file.name.replace(/\.\w+$/, "").slice(0, 200),
          transcript: "",
          asset,
          ...(isFilm ? { aspect: Math.round((await aspectOf(file)) * 1_000) / 1_000 } : {}),
        },
      });
    } catch (error) {
      setProblem(refusalOr(error, t("compose.picture-written.cannot-be-reached")));
    }
    setBusy(false);
  };
  const change = (next: Partial<RecordingPiece["recording"]>, typedIn: string) => {
    if (!found) return;
    const { slot, ...recording } = found;
    const piece: DraftPiece = { piece: "recording", recording: { ...recording, ...next } };
    store.change(new Map([[slot, piece]]), stepNames.typing(), `${recording.id} ${typedIn}`);
  };
  return (
    <div>
      <span className="label">{t("composer.recording-written.sound-or-film")}</span>
      <input
        ref={input}
        type="file"
        accept="audio/*,video/webm,video/mp4"
        className="hidden"
        tabIndex={-1}
        onChange={({ target }) => {
          void bring(target.files?.[0]);
          target.value = "";
        }}
      />
      {found ? (
        <div className="grid gap-2">
          {found.kind === "sound" ? (
            // biome-ignore lint/a11y/useMediaCaption: its words are written below it
            <audio
              controls
              src={assetPath(store.path, found.asset)}
              aria-label={found.title}
              className="w-full"
            />
          ) : (
            // biome-ignore lint/a11y/useMediaCaption: its words are written below it
            <video
              controls
              src={assetPath(store.path, found.asset)}
              aria-label={found.title}
              className="max-h-64 max-w-full"
            />
          )}
          <PlainField
            label={t("composer.recording-written.title")}
            language={language}
            maxLength={200}
            value={found.title}
            onChange={(title) => change({ title }, "title")}
          />
          <div>
            <span className="small">{t("composer.recording-written.its-words")}</span>
            <WrittenText
              key={found.id}
              text={found.transcript}
              label={t("composer.recording-written.its-words")}
              language={language}
              onChange={(transcript) => change({ transcript }, "transcript")}
            />
          </div>
          <p>
            <button type="button" className="button min-h-9! py-1!" onClick={onRemove}>
              {t("composer.recording-written.remove")}
            </button>
          </p>
        </div>
      ) : (
        <button
          type="button"
          className="button mt-1 min-h-9! py-1!"
          disabled={busy}
          onClick={() => input.current?.click()}
        >
          {busy ? t("ui.confirm.one-moment") : t("composer.recording-written.bring")}
        </button>
      )}
      {problem && (
        <p role="alert" className="mt-1 text-sm text-plum">
          {problem}
        </p>
      )}
    </div>
  );
}
