import type { ReactNode } from "react";
import { Link } from "react-router";
import { EMPTY, JarsOnABoard } from "@/ui/jars-on-a-board";

type Props = { to: string; what: string; picture: boolean; children: ReactNode };

/** An empty page: what would stand here, and the one press that begins it. */
export function FirstThing({ to, what, picture, children }: Props) {
  return (
    <div className="max-w-2xl">
      {picture && <JarsOnABoard jars={EMPTY} />}
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
