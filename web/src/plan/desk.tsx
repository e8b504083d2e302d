import { type ReactNode, useEffect, useRef } from "react";
import { Button } from "@/ui/button";

type Props = { title: string; lead: string; onClose: () => void; children: ReactNode };

/** What is in hand, beside the ribbon and never over it: one sees the material move. */
export function Desk({ title, lead, onClose, children }: Props) {
  const top = useRef<HTMLElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: each thing taken in hand comes into sight
  useEffect(() => {
    top.current?.focus({ preventScroll: true });
    if (matchMedia("(width < 62rem)").matches) top.current?.scrollIntoView({ block: "start" });
  }, [title]);
  return (
    <section
      ref={top}
      tabIndex={-1}
      aria-label={title}
      onKeyDown={(e) => e.key === "Escape" && onClose()}
      className="scroll-mb-24 focus:outline-none print:hidden"
    >
      <div className="flex items-start justify-between gap-4">
        <div>
          <h2>{title}</h2>
          <p className="text-slate leading-snug">{lead}</p>
        </div>
        <Button size="small" onClick={onClose}>
          Done
        </Button>
      </div>
      <div className="mt-3">{children}</div>
    </section>
  );
}
