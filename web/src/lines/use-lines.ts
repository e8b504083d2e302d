import { useQuery } from "@tanstack/react-query";
import { linesQuery } from "@/api/queries";
import type { LineView } from "@/api/types";

/** What a line was understood to be, by its text; nothing while it is being read. */
export type Reader = (text: string) => LineView | undefined;

/** What each line was understood to be. */
export function useLines(texts: string[]): Reader {
  const asked = texts.filter((t) => t.trim() !== "");
  const read = useQuery({ ...linesQuery(asked), enabled: asked.length > 0 }).data ?? [];
  const known = new Map(read.map((line) => [line.line, line]));
  return (text) => known.get(text);
}
