import { useQuery } from "@tanstack/react-query";
import { linesQuery } from "@/api/queries";
import type { LineView } from "@/api/types";
import type { Line } from "@/plan/asked";

/** What each line was understood to be, by its text; nothing while it is being read. */
export function useLines(texts: string[]): (text: string) => LineView | undefined {
  const asked = texts.filter((t) => t.trim() !== "");
  const read = useQuery({ ...linesQuery(asked), enabled: asked.length > 0 }).data ?? [];
  const known = new Map(read.map((line) => [line.line, line]));
  return (text) => known.get(text);
}

/** Whether a line may be planned with: it is read, or spoken of a lot whose name it need not say. */
export const readable =
  (of: (text: string) => LineView | undefined) =>
  (line: Line): boolean =>
    line.lot !== undefined || (line.text.trim() !== "" && of(line.text)?.wrong === null);
