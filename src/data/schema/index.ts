export * from "./attempts";
export * from "./courses";
export * from "./gradebook";
export * from "./mark-queries";
export * from "./people";
export * from "./quizzes";
export * from "./record";
export * from "./uploads";
