import { t } from "@/words/t";
import { PlainField } from "../kinds/writing/fields";

interface LanguageFieldProps {
  readonly label: string;
  readonly value: string | undefined;
  readonly mistake?: string | undefined;
  readonly onChange: (tag: string | undefined) => void;
}

/** The language of some texts, as a tag: "en", "ja". */
export const LanguageField = ({ label, value, mistake, onChange }: LanguageFieldProps) => (
  <PlainField
    className="max-w-72"
    label={label}
    placeholder={t("composer.language-field.as-the-rest")}
    maxLength={12}
    value={value ?? ""}
    mistake={mistake}
    onChange={(text) => onChange(text.trim() === "" ? undefined : text.trim())}
  />
);
