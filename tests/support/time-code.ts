import { createHmac } from "node:crypto";

/** A time code (RFC 6238, SHA-1, six digits, half a minute) of a secret in base 32. */
export function timeCode(secret: string, at = Date.now()): string {
  const bits = [...secret.replace(/=+$/, "")]
    .map((letter) => "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567".indexOf(letter).toString(2).padStart(5, "0"))
    .join("");
  const key = Buffer.from((bits.match(/.{8}/g) ?? []).map((byte) => Number.parseInt(byte, 2)));
  const count = Buffer.alloc(8);
  count.writeBigUInt64BE(BigInt(Math.floor(at / 30_000)));
  const digest = createHmac("sha1", key).update(count).digest();
  const from = (digest[19] ?? 0) & 15;
  return String((digest.readUInt32BE(from) & 0x7fffffff) % 1_000_000).padStart(6, "0");
}
