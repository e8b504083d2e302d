import type { ReactNode } from "react";

type Props = { href: string; name?: string; children: ReactNode };

/** Something to take along as a file, under a name where the server gives it none. */
export function FileLink({ href, name = "", children }: Props) {
  return (
    <a
      href={href}
      download={name}
      className="inline-flex min-h-11 items-center underline underline-offset-4"
    >
      {children}
    </a>
  );
}
