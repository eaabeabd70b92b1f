import { createHash, createHmac } from "node:crypto";
import { config } from "../base/config";

/** JSON with its keys in order, so that the same answer always has the same text. */
export function canonicalJson(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(canonicalJson).join(",")}]`;
  if (typeof value === "object" && value !== null) {
    const fields = Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1));
    return `{${fields.map(([key, field]) => `${JSON.stringify(key)}:${canonicalJson(field)}`).join(",")}}`;
  }
  return JSON.stringify(value);
}

/** SHA-256 of an answer's canonical JSON in UTF-8, in hexadecimal; "" when nothing was written. */
export const answerDigest = (answer: unknown): string =>
  answer === null || answer === undefined
    ? ""
    : createHash("sha256").update(canonicalJson(answer)).digest("hex");

// No I, L, O or U: nothing that is misread from paper.
const LETTERS = "0123456789ABCDEFGHJKMNPQRSTVWXYZ";

/** The short code of a slip, such as "7KQ2-M4XA-90TF": 60 bits of an HMAC over everything the slip proves. */
export function slipCode(facts: {
  readonly attemptId: string;
  readonly number: number;
  readonly handedInAt: string;
  readonly digests: readonly string[];
}): string {
  const proof = createHmac("sha256", `slip:${config.secret}`).update(canonicalJson(facts)).digest();
  const letters = [...proof.subarray(0, 12)].map((byte) => LETTERS[byte % 32]).join("");
  return `${letters.slice(0, 4)}-${letters.slice(4, 8)}-${letters.slice(8)}`;
}
