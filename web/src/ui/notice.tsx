import type { ReactNode } from "react";
import { Refused } from "@/api/client";
import { FindingRow, Mark } from "@/ui/verdict";

/** What the server refused, in its own words, or its stop with the remedy. */
export function Said({
  error,
  onChange,
}: {
  error: Error | null;
  onChange?: (change: string) => void;
}) {
  if (!error) return null;
  const finding = error instanceof Refused ? error.problem.finding : undefined;
  return (
    <div role="alert" className="border-2 border-hip bg-paper p-3">
      {finding ? (
        <ul>
          <FindingRow finding={finding} onChange={onChange} large />
        </ul>
      ) : (
        <p className="flex gap-3 font-bold text-lg">
          <Mark level="stop" />
          {error.message}
        </p>
      )}
    </div>
  );
}

export function Empty({ children }: { children: ReactNode }) {
  return <div className="max-w-xl border-2 border-line border-dashed p-6 text-lg">{children}</div>;
}

/** While something is fetched; it only shows when that takes long. */
export function Waiting() {
  return (
    <p role="status" className="motion-safe:animate-[simmer_2s_infinite] p-6 text-lg text-slate">
      One moment
    </p>
  );
}
