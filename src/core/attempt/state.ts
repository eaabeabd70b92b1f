/** Who handed an attempt in. */
export type HandedInBy = "student" | "clock" | "instructor";
