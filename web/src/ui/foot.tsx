import type { ReactNode } from "react";

/** What ends a long sheet: it stays in sight at the sheet's foot, however far the rest scrolls. */
export function Foot({ children }: { children: ReactNode }) {
  return (
    <div className="-mx-5 -mb-5 wide:-mx-6 wide:-mb-6 wide:-bottom-6 sticky -bottom-5 z-10 flex flex-wrap gap-3 border-line border-t-2 bg-paper px-5 py-3 wide:px-6">
      {children}
    </div>
  );
}
