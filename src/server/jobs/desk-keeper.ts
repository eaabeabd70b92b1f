import { SECOND } from "@/core/time/instants";
import { noteGoneDesks } from "../desk/presence";
import { repeat } from "./repeat";

/** Starts noting the leaving of desks whose process is gone; returns how to stop. */
export const startDeskKeeper = () =>
  repeat("the keeper of open desks", 10 * SECOND, async () => {
    await noteGoneDesks();
    return false;
  });
