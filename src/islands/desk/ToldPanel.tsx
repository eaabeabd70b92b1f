import type { Told } from "@/core/reveal/told";

const WORDS = {
  full: "Right",
  part: "Partly right",
  none: "Not right",
  empty: "Left empty",
  awaits: "Waits for your instructor",
} as const;

/** What a question says once it is left, where the quiz tells at once. */
export function ToldPanel({ told }: { readonly told: Told }) {
  const mood =
    told.state === "full"
      ? "border-moss bg-moss-2"
      : told.state === "none"
        ? "border-plum bg-plum-2"
        : "border-line-2 bg-sunk";
  const many = told.parts.length > 1;
  return (
    <div role="status" className={`mt-5 border-l-[3px] px-4 py-3 ${mood}`}>
      <p>
        <b>{WORDS[told.state]}</b> · {told.marks} of {told.maximum} {told.maximum === "1" ? "mark" : "marks"}.
        This question is closed now.
      </p>
      {told.parts.map((part) => (
        <div key={part.label ?? "whole"}>
          {(many || part.why !== "right") && (
            <p className="mt-1 text-sm text-ink-2">
              {part.label && <b>{part.label}: </b>}
              {part.why}
            </p>
          )}
          {part.right !== undefined && (
            <p className="mt-1 text-sm">
              Right: <b>{part.right}</b>
            </p>
          )}
          {part.feedback && (
            <div
              className="reading mt-2"
              // biome-ignore lint/security/noDangerouslySetInnerHtml: sanitised when the quiz was taken in
              dangerouslySetInnerHTML={{ __html: part.feedback }}
            />
          )}
        </div>
      ))}
    </div>
  );
}
