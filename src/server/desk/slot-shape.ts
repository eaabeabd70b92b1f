import * as yup from "yup";

/** The number of a question in an attempt, from 1; no quiz has more than a thousand. */
export const slotShape = () => yup.number().strict().integer().min(1).max(1000);
