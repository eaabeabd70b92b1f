import type { KindName } from "@/core/kinds/answering";
import { t } from "@/words/t";

/** What the kinds of questions are called, in the order in which they are offered. */
export const kindNames = (): readonly {
  readonly kind: KindName;
  readonly name: string;
  readonly hint: string;
}[] => [
  {
    kind: "one-of-several",
    name: t("composer.kind-names.one-of-several"),
    hint: t("composer.kind-names.one-of-several-hint"),
  },
  {
    kind: "several-of-several",
    name: t("composer.kind-names.several-of-several"),
    hint: t("composer.kind-names.several-of-several-hint"),
  },
  {
    kind: "true-or-false",
    name: t("composer.kind-names.true-or-false"),
    hint: t("composer.kind-names.true-or-false-hint"),
  },
  {
    kind: "short-text",
    name: t("composer.kind-names.short-text"),
    hint: t("composer.kind-names.short-text-hint"),
  },
  { kind: "numeric", name: t("composer.kind-names.numeric"), hint: t("composer.kind-names.numeric-hint") },
  { kind: "gaps", name: t("composer.kind-names.gaps"), hint: t("composer.kind-names.gaps-hint") },
  { kind: "matching", name: t("composer.kind-names.matching"), hint: t("composer.kind-names.matching-hint") },
  { kind: "ordering", name: t("composer.kind-names.ordering"), hint: t("composer.kind-names.ordering-hint") },
  {
    kind: "point-on-picture",
    name: t("composer.kind-names.point-on-picture"),
    hint: t("composer.kind-names.point-on-picture-hint"),
  },
  { kind: "essay", name: t("composer.kind-names.essay"), hint: t("composer.kind-names.essay-hint") },
  { kind: "upload", name: t("composer.kind-names.upload"), hint: t("composer.kind-names.upload-hint") },
  {
    kind: "declaration",
    name: t("composer.kind-names.declaration"),
    hint: t("composer.kind-names.declaration-hint"),
  },
];

export const kindName = (kind: KindName): string =>
  kindNames().find((each) => each.kind === kind)?.name ?? kind;
