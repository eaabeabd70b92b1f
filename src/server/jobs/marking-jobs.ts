import { SECOND } from "@/core/time/instants";
import { workAtAlike } from "../marking/alike-answers";
import { workAtReMarking } from "../marking/re-marking-job";
import { repeat } from "./repeat";

/** Starts marking again what instructors asked for, looked for each second; returns how to stop. */
export const startReMarker = () => repeat("the re-marker", SECOND, workAtReMarking);

/** Starts comparing the answers of quizzes that have closed; returns how to stop. */
export const startComparing = () => repeat("the comparer", 5 * SECOND, workAtAlike);
