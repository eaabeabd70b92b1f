import { type CheckAsked, DraftChecker } from "@/core/draft/checking";

const checker = new DraftChecker();

addEventListener("message", ({ data }: MessageEvent<CheckAsked>) => postMessage(checker.find(data)));
