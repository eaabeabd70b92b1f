import sharp from "sharp";
import type { Chance } from "@/core/numbers/seeded";
import { anyOf } from "./any-of";

/** A file as a student of the demo brings it. */
export interface SampleFile {
  readonly name: string;
  readonly type: string;
  readonly bytes: Buffer;
}

const FLOWERS = ["thyme", "knapweed", "white clover", "harebell", "oxeye daisy"];
const VISITORS = ["bumblebee", "small bee", "hoverfly", "honeybee"];
const PLACES = ["south-facing bank", "north-facing bank", "edge by the barn", "middle of the meadow"];

const two = (number: number): string => String(number).padStart(2, "0");

interface Visit {
  readonly time: string;
  readonly flower: string;
  readonly visitor: string;
}

const visits = (next: Chance): Visit[] =>
  Array.from({ length: 9 + Math.floor(next() * 8) }, (_, i) => ({
    time: `${two(9 + Math.floor(i / 6))}:${two((i % 6) * 10 + Math.floor(next() * 9))}`,
    flower: anyOf(FLOWERS, next) ?? "",
    visitor: anyOf(VISITORS, next) ?? "",
  }));

/** How many visits each flower had. */
const countsOf = (all: readonly Visit[]): [string, number][] =>
  FLOWERS.map((flower) => [flower, all.filter((each) => each.flower === flower).length]);

/** The lines of a page of the field notebook: the better, the more of what such a page needs. */
export function pageLines(quality: number, next: Chance): string[] {
  const place = anyOf(PLACES, next);
  const all = visits(next);
  if (quality < 0.15) return ["bees", "", `about ${all.length}`];
  const head = [
    `${place}, second day`,
    ...(quality > 0.35 ? [`${all[0]?.time} to ${all.at(-1)?.time}`] : []),
    ...(quality > 0.55 ? [`cloud ${Math.floor(next() * 5)}/8, wind ${1 + Math.floor(next() * 3)}`] : []),
    ...(quality > 0.75 ? [`${15 + Math.floor(next() * 8)} °C at the start, dry`] : []),
    "",
  ];
  if (quality < 0.4) {
    const seen = countsOf(all).filter(([, count]) => count > 0);
    return [...head, ...seen.map(([flower, count]) => `${flower}: ${count}`)];
  }
  return [
    ...head,
    ...all.map(({ time, flower, visitor }) =>
      quality < 0.6 ? `${flower}  ${visitor}` : `${time}  ${flower}  ${visitor}`,
    ),
  ];
}

/** The counts as a table, as text with commas. */
export function countsTable(quality: number, next: Chance): SampleFile {
  const all = visits(next);
  const lines =
    quality < 0.4
      ? ["flower,number", ...countsOf(all).map(([flower, count]) => `${flower},${count}`)]
      : [
          quality < 0.65 ? "a,b,c" : "time,flower,visitor",
          ...all.map(({ time, flower, visitor }) => `${time},${flower},${visitor}`),
        ];
  return {
    name: quality < 0.3 ? "table.csv" : "visits.csv",
    type: "text/plain",
    bytes: Buffer.from(`${lines.join("\n")}\n`),
  };
}

/** A page as a text file. */
export const asText = (lines: readonly string[]): SampleFile => ({
  name: "notebook.txt",
  type: "text/plain",
  bytes: Buffer.from(`${lines.join("\n")}\n`),
});

const escaped = (line: string): string => line.replace(/[()\\]/g, "\\$&").replace(/°/g, "\\260");

/** A page as a scanner would make it: a PDF of one page, written out by hand. */
export function asPdf(lines: readonly string[]): SampleFile {
  const text = lines.map((line) => `(${escaped(line)}) Tj T*`).join("\n");
  const stream = `BT /F1 14 Tf 60 760 Td 22 TL\n${text}\nET`;
  const objects = [
    "<< /Type /Catalog /Pages 2 0 R >>",
    "<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
    "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Contents 4 0 R /Resources << /Font << /F1 5 0 R >> >> >>",
    `<< /Length ${stream.length} >>\nstream\n${stream}\nendstream`,
    "<< /Type /Font /Subtype /Type1 /BaseFont /Courier-Oblique /Encoding /WinAnsiEncoding >>",
  ];
  let file = "%PDF-1.4\n";
  const places = objects.map((object, i) => {
    const at = file.length;
    file += `${i + 1} 0 obj\n${object}\nendobj\n`;
    return at;
  });
  const table = file.length;
  file += `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n`;
  file += places.map((at) => `${String(at).padStart(10, "0")} 00000 n \n`).join("");
  file += `trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${table}\n%%EOF\n`;
  return { name: "scan.pdf", type: "application/pdf", bytes: Buffer.from(file, "latin1") };
}

/** A page as it is photographed: on lined paper, a little crooked. */
export async function asPicture(lines: readonly string[], next: Chance): Promise<SampleFile> {
  const ruled = Array.from(
    { length: 26 },
    (_, i) => `<path d="M0 ${70 + i * 28}H560" stroke="#b9cfe0"/>`,
  ).join("");
  const text = lines
    .map(
      (line, i) =>
        `<text x="50" y="${64 + i * 28}">${line.replace(/&/g, "&amp;").replace(/</g, "&lt;")}</text>`,
    )
    .join("");
  const turn = (next() - 0.5) * 5;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="640" height="860"><rect width="640" height="860" fill="#6f5a44"/>
    <g transform="translate(40 30) rotate(${turn.toFixed(2)} 280 400)"><rect width="560" height="800" fill="#fbf8ec"/>${ruled}
    <g font-family="cursive" font-style="italic" font-size="21" fill="#1d2f5a">${text}</g></g></svg>`;
  const bytes = await sharp(Buffer.from(svg)).png({ palette: true }).toBuffer();
  return { name: `IMG_${1000 + Math.floor(next() * 9000)}.png`, type: "image/png", bytes };
}
