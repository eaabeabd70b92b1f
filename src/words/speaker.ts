import { type I18n, type MessageDescriptor, setupI18n } from "@lingui/core";
import type { Said } from "@/core/said";
import { FORMS, type Values } from "./forms";

/** The messages of a language as they were compiled: what Lingui says quickly. */
export type Compiled = Readonly<Record<string, NonNullable<MessageDescriptor["message"]> | unknown>>;

/** Says what is meant in one language. */
export class Speaker {
  readonly #messages: I18n;

  /**
   * @param language the language's short name, that of its file: "en"
   * @param tag its tag for dates and numbers (BCP 47): "en-GB"
   */
  constructor(
    readonly language: string,
    readonly tag: string,
    compiled: Compiled,
  ) {
    this.#messages = setupI18n({ locale: tag, messages: { [tag]: compiled as never } });
  }

  /** A sentence by its code. A code that is not in the catalogue is said as it is. */
  say(code: string, values: Values = {}): string {
    const form = FORMS[code];
    if (form) return form(values, this);
    const plain: Record<string, unknown> = {};
    for (const [name, value] of Object.entries(values)) {
      plain[name] = typeof value === "number" ? value : this.saySaid(value as Said);
    }
    return this.#messages._(code, plain);
  }

  saySaid(said: Said): string {
    return typeof said === "string" ? said : this.say(said.code, said.values);
  }
}
