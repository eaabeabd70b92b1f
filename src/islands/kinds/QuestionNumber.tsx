/** The number of a question, large in the margin, and what it is worth. */
export function QuestionNumber({ slot, marks }: { readonly slot: number; readonly marks: string }) {
  return (
    <div className="flex shrink-0 items-baseline gap-3 sm:block sm:w-[3.25rem]">
      <p className="font-read text-5xl leading-none text-indigo" aria-hidden="true">
        {slot}
      </p>
      <p className="small whitespace-nowrap sm:mt-2">
        {t("kinds.question-number.marks", { marks: Number(marks) })}
      </p>
    </div>
  );
}

import { t } from "@/words/t";
