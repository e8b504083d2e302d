import { Glass } from "@/ui/glass";

const JARS = [
  { radiusMm: 46, heightMm: 155, colour: "#d9a441", level: 0.9 },
  { radiusMm: 38, heightMm: 115, colour: "#5a2350", level: 0.92 },
  { radiusMm: 38, heightMm: 115, colour: "#5a2350", level: 0.92 },
  { radiusMm: 34, heightMm: 72, colour: "#c96a79", level: 0.88 },
  { radiusMm: 38, heightMm: 115, colour: "#e07f1f", level: 0.5 },
];

/** A few jars on a board. */
export function Shelf() {
  return (
    <div aria-hidden="true" className="mt-8 max-w-md">
      <div className="flex items-end gap-3 px-4">
        {JARS.map((jar, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a fixed picture
          <Glass key={i} {...jar} scale={0.62} />
        ))}
      </div>
      <div className="h-3 border-2 border-line bg-wood" />
    </div>
  );
}
