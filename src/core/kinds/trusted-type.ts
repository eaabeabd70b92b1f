/**
 * The one place where the core says "these types agree" to the compiler without proof: where a value was chosen by its
 * kind's name, and where a Yup shape stands for a question type. Everything else is checked.
 */
export const agreed = <T>(value: unknown): T => value as T;
