/** How a file can be looked at where it stands, by its name: only what browsers show by themselves. */
export type Preview = "picture" | "sound" | "film" | "text" | "pdf" | null;

/** What a file is called tells how it is shown; what it is, the server tells by its content. */
export function previewOf(name: string): Preview {
  if (/\.(png|jpe?g|gif|webp|avif|bmp)$/i.test(name)) return "picture";
  if (/\.(mp3|m4a|aac|ogg|oga|opus|wav|flac|weba)$/i.test(name)) return "sound";
  if (/\.(mp4|m4v|webm|ogv|mov)$/i.test(name)) return "film";
  if (/\.(txt|csv|md|log)$/i.test(name)) return "text";
  return /\.pdf$/i.test(name) ? "pdf" : null;
}
