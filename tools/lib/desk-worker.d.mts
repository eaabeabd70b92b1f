import type { AstroIntegration } from "astro";

export function deskWorker(): AstroIntegration;
