import type { TraysView } from "@/api/types";
import { plain } from "@/lib/format";

const SPAN: [number, number] = [-50, -20];
const partsOf = ({ sticky_c, dries_well_c }: TraysView) => [
  { from: SPAN[0], to: sticky_c, fill: "var(--hip)", words: "foams" },
  { from: sticky_c, to: dries_well_c, fill: "var(--brass)", words: "sticky, slow" },
  { from: dries_well_c, to: SPAN[1], fill: "var(--leaf)", words: "dries well" },
];
const share = (c: number) =>
  (100 * (Math.max(SPAN[0], Math.min(SPAN[1], c)) - SPAN[0])) / (SPAN[1] - SPAN[0]);

/** Where what lies on the trays stands between foaming and drying well. */
export function WillItDry({ load }: { load: TraysView }) {
  const at = load.collapse_c;
  if (at === null) return null;
  const parts = partsOf(load);
  const says = { dries: "it dries well", sticky: "it dries slowly, and sticks", foams: "it foams" };
  const word = says[load.does as keyof typeof says];
  return (
    <figure aria-label={`Will it dry? ${word}`} className="max-w-md">
      <figcaption className="text-lg font-bold">Will it dry?</figcaption>
      <div className="relative mt-5">
        <span
          aria-hidden="true"
          className="-translate-x-1/2 -top-5 absolute size-0 border-x-8 border-x-transparent border-t-14 border-t-elder"
          style={{ left: `${share(at)}%` }}
        />
        <div className="flex h-5 border border-line">
          {parts.map((p) => (
            <span
              key={p.words}
              style={{
                width: `${share(p.to) - share(p.from)}%`,
                background: p.fill,
                opacity: 0.45,
              }}
            />
          ))}
        </div>
        <div className="mt-1 flex text-slate">
          {parts.map((p) => (
            <span
              key={p.words}
              style={{ width: `${share(p.to) - share(p.from)}%` }}
              className={`leading-tight ${p.words === "dries well" ? "text-right" : ""}`}
            >
              {p.words}
            </span>
          ))}
        </div>
      </div>
      <p className="mt-1 text-slate">
        Warmer than {plain(at, 1)} °C a dried cake of it falls in on itself.
      </p>
    </figure>
  );
}
