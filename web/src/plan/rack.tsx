import type { EndView, KitchenView } from "@/api/types";
import { count, holds, jarsOf, litres } from "@/lib/format";
import { ready } from "@/methods/words";
import { Container } from "@/ui/container";
import { USUAL_JAR } from "@/ui/glass";
import { Tumbler } from "@/ui/tumbler";

const MOST_DRAWN = 28;

type Props = {
  end: EndView;
  kitchen: KitchenView;
  small?: boolean;
  /** Without what is only to be known once one looks closer. */
  brief?: boolean;
};

/** The rack of jars an end will fill; ghosts are those to have ready besides. */
export function Rack({ end, kitchen, small = false, brief = false }: Props) {
  const { expected, generous } = end;
  if (end.keep === "shelf" && !end.process) return <NotForTheShelf />;
  if (end.keep === "now") return <Glasses end={end} small={small} />;
  const named = expected.jars.map((j) => jarsOf(j.count, j.name)).join(", ") || "No full jar";
  const partName = kitchen.jar_kinds.find((k) => k.key === expected.part_kind)?.name;
  return (
    <div>
      {brief ? (
        <p className="text-slate leading-tight">
          <b className="text-ink text-lg">{named}</b>, have {ready(end)} ready
        </p>
      ) : (
        <>
          <h2 className={`${small ? "text-2xl" : "text-3xl"} text-ink`}>{named}</h2>
          <p className="text-slate">{toHave(end)}</p>
        </>
      )}
      <Jars end={end} kitchen={kitchen} small={small} />
      {!brief && end.keep === "shelf" && expected.loads > 0 && (
        <p className="mt-2">
          {count(expected.loads, "canner load")} of {kitchen.canner_jars} at most
        </p>
      )}
      {!brief && expected.part_kind && (
        <p className="text-slate">
          the last {partName} holds {litres(expected.part_ml)}
          {end.keep === "shelf" && ": to the refrigerator"}
        </p>
      )}
      {generous.unplaced_ml > 1 && (
        <p className="font-bold text-brass">
          {litres(generous.unplaced_ml)} may find no jar in stock
        </p>
      )}
    </div>
  );
}

/** What is drunk now, in glasses of this household. */
function Glasses({ end, small }: { end: EndView; small: boolean }) {
  const drawn = Math.min(end.glasses, MOST_DRAWN);
  return (
    <div>
      <h2 className={`${small ? "text-2xl" : "text-3xl"} text-ink`}>
        {end.glasses > 0 ? count(end.glasses, "glass", "glasses") : "Less than a glass"}
      </h2>
      <p className="text-slate">of {holds(end.glass_ml)}, drunk now</p>
      <div className="mt-3 flex flex-wrap items-end gap-x-1 gap-y-1 border-wood border-b-6">
        {Array.from({ length: drawn }, (_, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: glasses are alike
          <Tumbler key={i} colour={end.colour} height={small ? 30 : 44} />
        ))}
      </div>
    </div>
  );
}

function NotForTheShelf() {
  return (
    <div>
      <h2 className="text-2xl text-ink">No jars</h2>
      <p className="text-slate">none may stand on a shelf: see below</p>
    </div>
  );
}

/** How many to wash and keep hot, so that nine times in ten there are enough. */
function toHave(end: EndView): string {
  const { generous, stock } = end;
  if (generous.unplaced_ml > 1)
    return `have all ${stock} ready; nine times in ten it takes more: add another kind of jar`;
  const several = generous.jars.length > 1;
  const words = several
    ? generous.jars.map((j) => jarsOf(j.count, j.name)).join(", ")
    : String(ready(end));
  return `have ${words} ready: nine times in ten, enough`;
}

function Jars({ end, kitchen, small }: Props) {
  const shape = new Map(
    kitchen.jar_kinds.map((k) => [k.key, { radiusMm: k.radius_mm, heightMm: k.height_mm }]),
  );
  const full = end.expected.jars.flatMap((j) =>
    Array.from({ length: j.count }, () => ({ kind: j.kind, level: 0.92, ghost: false })),
  );
  const part = end.expected.part_kind
    ? [
        {
          kind: end.expected.part_kind,
          level:
            end.expected.part_ml /
            (kitchen.jar_kinds.find((k) => k.key === end.expected.part_kind)?.nominal_ml ?? 473),
          ghost: false,
        },
      ]
    : [];
  const more = Math.max(0, end.generous.count - end.expected.count);
  const spare = end.generous.jars.at(-1)?.kind ?? end.expected.part_kind ?? "pint";
  const ghosts = Array.from({ length: more }, () => ({ kind: spare, level: 0, ghost: true }));
  const all = [...full, ...part, ...ghosts]
    .slice(0, MOST_DRAWN)
    .map((jar, i) => ({ ...jar, id: `${jar.kind}-${i}` }));
  const scale = small ? 0.28 : all.length > 18 ? 0.34 : 0.44;
  return (
    <div className="mt-3 flex flex-wrap items-end gap-x-1 gap-y-1 border-wood border-b-6">
      {all.map((jar) => (
        <Container
          key={jar.id}
          kind={jar.kind}
          {...(shape.get(jar.kind) ?? USUAL_JAR)}
          scale={scale}
          level={jar.level}
          colour={end.colour}
          ghost={jar.ghost}
          lid={kitchen.lids[end.lid]}
        />
      ))}
    </div>
  );
}
