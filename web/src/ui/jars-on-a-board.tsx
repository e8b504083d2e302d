import type { ComponentProps } from "react";
import { Glass, USUAL_JAR } from "@/ui/glass";

type Jar = Omit<ComponentProps<typeof Glass>, "scale"> & { id: string };

/** A few jars on a board: a picture that says nothing but what this is about. */
export function JarsOnABoard({ jars }: { jars: Jar[] }) {
  return (
    <div aria-hidden="true" className="max-w-md">
      <div className="flex items-end gap-3 px-4">
        {jars.map(({ id, ...jar }) => (
          <Glass key={id} {...jar} scale={0.62} />
        ))}
      </div>
      <div className="h-3 border-2 border-line bg-wood" />
    </div>
  );
}

const TALL = { radiusMm: 46, heightMm: 155 };
const SMALL = { radiusMm: 34, heightMm: 72 };

/** Some full ones. */
export const FULL: Jar[] = [
  { id: "amber", ...TALL, colour: "#d9a441", level: 0.9 },
  { id: "dark", ...USUAL_JAR, colour: "#5a2350", level: 0.92 },
  { id: "dark too", ...USUAL_JAR, colour: "#5a2350", level: 0.92 },
  { id: "rose", ...SMALL, colour: "#c96a79", level: 0.88 },
  { id: "orange", ...USUAL_JAR, colour: "#e07f1f", level: 0.5 },
];

const CLEAN = { colour: "var(--paper)", level: 0, lid: "var(--brass)" };

/** Clean ones that wait. */
export const EMPTY: Jar[] = [
  { id: "tall", ...TALL, ...CLEAN },
  { id: "one", ...USUAL_JAR, ...CLEAN },
  { id: "another", ...USUAL_JAR, ...CLEAN },
  { id: "small", ...SMALL, ...CLEAN },
];
