import { expect } from "vitest";
import type { Said } from "@/core/said";
import { speakerOf } from "@/words/languages";
import { speakBy } from "@/words/t";

speakBy(() => speakerOf("en"));

const isCoded = (value: unknown): value is Exclude<Said, string> =>
  typeof value === "object" && value !== null && "code" in value && typeof value.code === "string";

/** What is meant equals the English sentence that a reader gets: tests say what people read. */
expect.addEqualityTesters([
  (one: unknown, other: unknown) => {
    if (typeof one === "string" && isCoded(other)) return speakerOf("en").saySaid(other) === one;
    if (typeof other === "string" && isCoded(one)) return speakerOf("en").saySaid(one) === other;
    return undefined;
  },
]);

/** The same for what a sentence matches or holds. */
for (const matcher of [expect.stringMatching(/./), expect.stringContaining("")]) {
  const kind = Object.getPrototypeOf(matcher) as { asymmetricMatch(other: unknown): boolean };
  const match = kind.asymmetricMatch;
  kind.asymmetricMatch = function (other) {
    return match.call(this, isCoded(other) ? speakerOf("en").saySaid(other) : other);
  };
}
