import type { Change } from "@/api/changes";

/** Makes a change to the batch; what follows is done once it is kept. */
export type Act = (change: Change, then?: () => void) => void;
