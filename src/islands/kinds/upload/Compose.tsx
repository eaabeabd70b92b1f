import { given } from "@/core/given";
import { FILE_KINDS, type FileKind } from "@/core/kinds/upload/answer";
import type { Upload } from "@/core/kinds/upload/mark";
import { t } from "@/words/t";
import type { ComposeProps } from "../compose-props";
import { ByHandWritten } from "../writing/ByHandWritten";
import { Mistake, PlainField, Tick, textOf, wholeOrNone } from "../writing/fields";
import { stepNames } from "../writing/step-names";

/** Which files are taken, and what they are marked by. */
export function UploadCompose(props: ComposeProps<Upload>) {
  const { question, slot, language, mistakes, newName, onChange } = props;
  const names: { readonly [K in FileKind]: string } = {
    picture: t("compose.upload.pictures"),
    pdf: t("compose.upload.pdf"),
    text: t("compose.upload.plain-texts"),
    document: t("compose.upload.documents"),
    spreadsheet: t("compose.upload.spreadsheets"),
    sound: t("compose.upload.sounds"),
    film: t("compose.upload.films"),
    archive: t("compose.upload.archives"),
    any: t("compose.upload.any-file"),
  };
  const set = (change: Partial<Upload>, typedIn?: string) => {
    onChange(given({ ...question, ...change }), stepNames.scoring(), typedIn);
  };
  return (
    <div className="grid gap-4">
      <fieldset className="grid gap-1.5 sm:grid-cols-3">
        <legend className="label mb-1">{t("compose.upload.what-is-taken")}</legend>
        {FILE_KINDS.map((kind) => (
          <Tick
            key={kind}
            label={names[kind]}
            checked={question.allows.includes(kind)}
            onChange={(taken) =>
              set({
                allows: FILE_KINDS.filter((each) => (each === kind ? taken : question.allows.includes(each))),
              })
            }
          />
        ))}
      </fieldset>
      <Mistake words={mistakes.get("allows")} />
      <div className="flex flex-wrap gap-x-6 gap-y-3">
        <PlainField
          className="w-32"
          label={t("compose.upload.most-files")}
          inputMode="numeric"
          placeholder="1"
          maxLength={2}
          value={textOf(question.mostFiles)}
          mistake={mistakes.get("mostFiles")}
          onChange={(text) => set({ mostFiles: wholeOrNone(text) }, `piece-${slot} mostFiles`)}
        />
        <PlainField
          className="w-44"
          label={t("compose.upload.largest")}
          inputMode="numeric"
          placeholder="20"
          maxLength={3}
          value={textOf(question.largestMegabytes)}
          mistake={mistakes.get("largestMegabytes")}
          onChange={(text) => set({ largestMegabytes: wholeOrNone(text) }, `piece-${slot} largest`)}
        />
      </div>
      <Tick
        label={t("compose.upload.text-beside")}
        checked={question.textBeside ?? false}
        onChange={(beside) => set({ textBeside: beside || undefined })}
      />
      <ByHandWritten
        question={question}
        field={`piece-${slot}`}
        language={language}
        mistakes={mistakes}
        newName={newName}
        onChange={onChange}
      />
    </div>
  );
}
