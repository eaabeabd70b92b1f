import { defineConfig } from "drizzle-kit";

export default defineConfig({
  dialect: "postgresql",
  casing: "snake_case",
  schema: "./src/data/schema/index.ts",
  out: "./src/data/migrations",
});
