import type { ReactNode } from "react";
import { Link } from "react-router";
import { Glass } from "@/ui/glass";

type Props = { to: string; what: string; picture: boolean; children: ReactNode };

/** An empty page: what would stand here, and the one press that begins it. */
export function FirstThing({ to, what, picture, children }: Props) {
  return (
    <div className="max-w-2xl">
      {picture && <EmptyJars />}
      <p className="mt-5 text-xl leading-snug">{children}</p>
      <Link
        to={to}
        className="mt-4 inline-flex min-h-14 items-center border-2 border-line bg-leaf px-6 font-bold font-display text-on-dark text-xl hover:brightness-110"
      >
        {what}
      </Link>
    </div>
  );
}

const SIZES = [
  { id: "tall", radiusMm: 46, heightMm: 155 },
  { id: "first pint", radiusMm: 38, heightMm: 115 },
  { id: "second pint", radiusMm: 38, heightMm: 115 },
  { id: "small", radiusMm: 34, heightMm: 72 },
];

/** Clean jars on a board, waiting. */
function EmptyJars() {
  return (
    <div aria-hidden="true" className="max-w-xs">
      <div className="flex items-end gap-3 px-3">
        {SIZES.map(({ id, ...size }) => (
          <Glass
            key={id}
            {...size}
            scale={0.62}
            level={0}
            colour="var(--paper)"
            lid="var(--brass)"
          />
        ))}
      </div>
      <div className="h-3 border-2 border-line bg-wood" />
    </div>
  );
}
