import type { PastSittings } from "@/core/draft/past-sittings";
import type { Viewer } from "../access/viewer";
import { remarkablesOf } from "../figures/figures-words";
import { figuresOf } from "../figures/quiz-figures";
import { openDraft } from "./open-draft";

/** How the questions of a draft behaved where its quiz was taken before; nothing for one that was never assigned. */
export async function pastSittings(viewer: Viewer, draftId: string): Promise<PastSittings> {
  const { draft } = await openDraft(viewer, draftId);
  if (draft.quizId === null) return { questions: [] };
  const choice = { attempts: "counting", version: null, sitting: null, section: null } as const;
  const view = await figuresOf(viewer, draft.quizId, choice);
  return {
    questions: view.figures.questions
      .filter(({ attempts }) => attempts > 0)
      .map(({ id, attempts, facility, discrimination }) => ({
        id,
        attempts,
        facility,
        discrimination,
        remarkable: remarkablesOf(view, id),
        time: view.times.get(id) ?? null,
      })),
  };
}
