import { useState } from "react";
import type { TimesView } from "@/core/allowances/times-view";
import { t } from "@/words/t";

/** As many of the chosen are named beside the list. */
const NAMED = 4;

interface PeoplePickerProps {
  readonly students: TimesView["students"];
  readonly sections: TimesView["sections"];
  readonly chosen: ReadonlySet<string>;
  readonly label: string;
  readonly onChange: (chosen: ReadonlySet<string>) => void;
}

/** Students of a course, picked one by one, by name, or by section. */
export function PeoplePicker({ students, sections, chosen, label, onChange }: PeoplePickerProps) {
  const [filter, setFilter] = useState("");
  const wanted = filter.trim().toLocaleLowerCase();
  const shown = students.filter(({ name }) => name.toLocaleLowerCase().includes(wanted));
  const named = students
    .filter(({ id }) => chosen.has(id))
    .slice(0, NAMED)
    .map(({ name }) => name);
  const toggle = (id: string) => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    onChange(next);
  };
  return (
    <fieldset className="grid gap-2">
      <legend className="label mb-1">{label}</legend>
      <div className="flex flex-wrap items-center gap-2">
        <input
          className="field w-56"
          type="search"
          placeholder={t("allowances.people-picker.part-of-a-name")}
          aria-label={t("allowances.people-picker.part-of-a-name")}
          value={filter}
          maxLength={80}
          onChange={(event) => setFilter(event.target.value)}
        />
        {sections.map(({ id, name, members }) => (
          <button
            key={id}
            type="button"
            className="button"
            onClick={() => onChange(new Set([...chosen, ...members]))}
          >
            {t("allowances.people-picker.all-of", { name })}
          </button>
        ))}
        <span role="status" className="small">
          {t("allowances.people-picker.chosen", {
            count: chosen.size,
            names: named.join(t("joint.commas")),
            more: chosen.size - named.length,
          })}
        </span>
      </div>
      <ul className="max-h-64 overflow-y-auto border border-line bg-sheet px-3 py-1 sm:columns-2">
        {shown.map(({ id, name }) => (
          <li key={id} className="break-inside-avoid">
            <label className="flex min-h-8 items-center gap-2.5 py-0.5">
              <input
                type="checkbox"
                className="size-[18px] shrink-0"
                checked={chosen.has(id)}
                onChange={() => toggle(id)}
              />
              {name}
            </label>
          </li>
        ))}
        {shown.length === 0 && <li className="small py-1">{t("allowances.people-picker.nobody")}</li>}
      </ul>
    </fieldset>
  );
}
