import type { ReactNode } from "react";

/** A part of the Kitchen screen, with what can be added to it. */
export function Part({
  name,
  children,
  add,
}: {
  name: string;
  children: ReactNode;
  add?: ReactNode;
}) {
  return (
    <section aria-label={name}>
      <div className="flex items-baseline justify-between gap-4">
        <h2>{name}</h2>
        {add}
      </div>
      <div className="stitch mt-2 mb-3" />
      {children}
    </section>
  );
}
