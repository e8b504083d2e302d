import { useLive } from "@/api/changes";
import { api, body } from "@/api/client";
import type { JarsDone } from "@/api/types";

/** Something is done with jars. */
export const useDo = (onDone?: (ids: number[]) => void) =>
  useLive((said: JarsDone) => body(api.POST("/api/jars", { body: said })), onDone);
