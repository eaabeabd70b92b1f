import { t } from "@/words/t";

/** What is done in a question, as a name of it, for its undoing. */
export const stepNames = {
  typing: () => t("compose.step-names.typing"),
  key: () => t("compose.step-names.key"),
  added: () => t("compose.step-names.added"),
  removed: () => t("compose.step-names.removed"),
  moved: () => t("compose.step-names.moved"),
  pasted: () => t("compose.step-names.pasted"),
  picture: () => t("compose.step-names.picture"),
  scoring: () => t("compose.step-names.scoring"),
};
