import type { OutlineSection } from "@/core/draft/pieces";
import { given } from "@/core/given";
import { t } from "@/words/t";
import { LaterField, PlainField, Tick, textOf, wholeOrNone } from "../kinds/writing/fields";
import { PictureWritten } from "../kinds/writing/PictureWritten";
import { stepNames } from "../kinds/writing/step-names";
import { WrittenText } from "../kinds/writing/WrittenText";
import type { ComposerStore } from "./composer-store";
import { DrawnFrom } from "./DrawnFrom";
import type { DraftDeeds } from "./draft-deeds";

interface SectionWrittenProps {
  readonly store: ComposerStore;
  readonly deeds: DraftDeeds;
  readonly section: OutlineSection;
  /** Its place among the sections, from 0, and how many there are. */
  readonly place: number;
  readonly count: number;
  readonly language: string | undefined;
  readonly mistakes: ReadonlyMap<string, string>;
}

/** Some questions under one title: what they are about together, and how many of them are drawn. */
export function SectionWritten({
  store,
  deeds,
  section,
  place,
  count,
  language,
  mistakes,
}: SectionWrittenProps) {
  const change = (part: Partial<OutlineSection>, words: string, typedIn?: string) =>
    deeds.changeSection(
      section.id,
      (each) => given({ ...each, ...part }),
      words,
      typedIn && `${section.id} ${typedIn}`,
    );
  const at = `[${place}]`;
  const { stimulus, questions } = section;
  /** Within so many attempts none has to come twice. */
  const most = Math.floor(questions.length / Math.max(1, section.draw ?? 1));
  return (
    <section aria-labelledby="section-written" className="grid max-w-[43.75rem] gap-6">
      <h2 id="section-written" className="label">
        {t("composer.section-written.section", { nth: place + 1, count })}
      </h2>
      <PlainField
        label={t("composer.section-written.title")}
        language={language}
        placeholder={t("composer.section-written.no-title")}
        maxLength={200}
        value={section.title ?? ""}
        mistake={mistakes.get(`${at}.title`)}
        onChange={(title) => change({ title: title === "" ? undefined : title }, stepNames.typing(), "title")}
      />
      <div>
        <span className="label">{t("composer.section-written.about-together")}</span>
        <p className="small">{t("composer.section-written.about-together-hint")}</p>
        <WrittenText
          key={section.id}
          className="reading mt-1"
          text={stimulus?.text ?? ""}
          label={t("composer.section-written.about-together")}
          language={language}
          mistake={mistakes.get(`${at}.stimulus.text`)}
          onChange={(text) =>
            change(
              {
                stimulus: text === "" && stimulus?.figure === undefined ? undefined : { ...stimulus, text },
              },
              stepNames.typing(),
              "stimulus",
            )
          }
        />
        <PictureWritten
          id={stimulus?.figure}
          label={t("composer.section-written.picture")}
          mistake={mistakes.get(`${at}.stimulus.figure`)}
          onPut={({ id }) =>
            change({ stimulus: { text: stimulus?.text ?? "", figure: id } }, stepNames.picture())
          }
          onRemove={() =>
            change({ stimulus: stimulus?.text ? { text: stimulus.text } : undefined }, stepNames.picture())
          }
        />
      </div>
      <div className="grid gap-2">
        <Tick
          label={t("composer.section-written.draw-some")}
          hint={t("composer.section-written.draw-hint")}
          checked={section.draw !== undefined}
          onChange={(draws) =>
            change(
              { draw: draws ? Math.max(1, Math.ceil(questions.length / 2)) : undefined, apart: undefined },
              stepNames.scoring(),
            )
          }
        />
        {section.draw !== undefined && (
          <LaterField
            className="w-60"
            label={t("composer.section-written.how-many-of", { count: questions.length })}
            inputMode="numeric"
            maxLength={3}
            value={textOf(section.draw)}
            mistake={mistakes.get(at) ?? mistakes.get(`${at}.draw`)}
            onChange={(text) => change({ draw: wholeOrNone(text) ?? 1 }, stepNames.scoring())}
          />
        )}
        {section.draw !== undefined && (
          <div>
            <LaterField
              className="w-60"
              label={t("composer.section-written.apart")}
              inputMode="numeric"
              maxLength={3}
              placeholder={t("composer.section-written.apart-none")}
              value={textOf(section.apart)}
              mistake={mistakes.get(`${at}.apart`)}
              onChange={(text) => change({ apart: wholeOrNone(text) }, stepNames.scoring())}
            />
            {section.apart !== undefined && (
              <p className={`small mt-1 ${section.apart > most ? "text-ochre" : ""}`}>
                {t("composer.section-written.apart-hint", {
                  count: questions.length,
                  draw: section.draw,
                  most,
                })}
              </p>
            )}
          </div>
        )}
      </div>
      <DrawnFrom store={store} deeds={deeds} section={section} />
      <p className="flex flex-wrap gap-3 border-t border-line pt-4">
        <button
          type="button"
          className="button"
          disabled={place === 0}
          onClick={() => deeds.moveSection(section.id, -1)}
        >
          {t("composer.section-written.move-up")}
        </button>
        <button
          type="button"
          className="button"
          disabled={place === count - 1}
          onClick={() => deeds.moveSection(section.id, 1)}
        >
          {t("composer.section-written.move-down")}
        </button>
        <button
          type="button"
          className="button"
          disabled={count < 2}
          onClick={() => deeds.removeSection(section.id)}
        >
          {t("composer.section-written.take-away")}
        </button>
      </p>
    </section>
  );
}
