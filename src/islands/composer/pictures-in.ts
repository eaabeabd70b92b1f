import { answering, type PresentedQuestion } from "@/core/kinds/answering";
import { fieldsOf } from "@/core/kinds/fields";

/** The ids of the pictures that a question shows. */
export const picturesIn = (question: PresentedQuestion): string[] =>
  fieldsOf(question, answering(question.kind).fields, "picture");
