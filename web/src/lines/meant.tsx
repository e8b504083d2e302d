import type { ReactNode } from "react";
import type { LineView } from "@/api/types";
import { useLast } from "@/lib/use-last";
import { Misread } from "@/lines/misread";
import { understood } from "@/lines/understood";

type Props = {
  text: string;
  read: LineView | undefined;
  /** A reading that was chosen; where there is none to choose, nothing is asked. */
  onChoose: ((line: string) => void) | undefined;
  children?: (known: LineView) => ReactNode;
};

/**
 * What a line was understood to be, or why it cannot be read. What was known before stays in its
 * place while it is being read anew, so that nothing below moves away under a hand.
 */
export function Meant({ text, read, onChoose, children }: Props) {
  const known = useLast(read);
  if (!known || !text.trim()) return null;
  return (
    <div className="grid gap-2" aria-busy={!read} inert={!read}>
      {known.wrong && onChoose ? (
        <Misread text={known.line} wrong={known.wrong} onChoose={onChoose} />
      ) : (
        <p className="text-leaf">{understood(known)}</p>
      )}
      {children?.(known)}
    </div>
  );
}
