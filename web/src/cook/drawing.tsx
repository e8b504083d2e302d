import { useQuery } from "@tanstack/react-query";
import { kitchenQuery } from "@/api/queries";
import type { BatchView, StepView } from "@/api/types";
import { Bowl } from "@/cook/bowl";
import { mix, ofFruit } from "@/lib/colour";
import { litres, temperature } from "@/lib/format";
import { useNow } from "@/lib/use-now";
import { Container } from "@/ui/container";
import { Tumbler } from "@/ui/tumbler";

/** The station as it stands on the stove, with its levels. */
export function Drawing({ batch, step }: { batch: BatchView; step: StepView }) {
  const now = useNow(5000);
  if (step.drawing === "juicer") return <Steamer batch={batch} step={step} />;
  if (step.drawing === "pot") return <Pot batch={batch} step={step} />;
  if (step.drawing === "trays") return <Dryer batch={batch} step={step} />;
  if (step.drawing === "jars") return <Jars batch={batch} step={step} />;
  return <Bowl batch={batch} step={step} done={shareDone(step, now)} />;
}

function shareDone(step: StepView, now: number): number {
  if (step.phase === "done") return 1;
  if (!step.clock_from || !step.due_at) return 0;
  const [from, due] = [new Date(step.clock_from).getTime(), new Date(step.due_at).getTime()];
  return Math.max(0, Math.min(1, (now - from) / (due - from)));
}

/** A dryer with its trays, the lower the emptier of water. */
function Dryer({ batch, step }: { batch: BatchView; step: StepView }) {
  const now = useNow(5000);
  const load = step.trays;
  const trays = Math.min(8, load?.trays ?? 1);
  const done = shareDone(step, now);
  const gap = 190 / (trays + 1);
  return (
    <svg
      viewBox="0 0 270 300"
      className="block w-full"
      role="img"
      aria-label={`${step.station?.name ?? "Dryer"}, ${Math.round(100 * done)} % of the time`}
    >
      <g fill="var(--paper)" stroke="var(--line)" strokeWidth="2.5">
        <rect x="20" y="20" width="230" height="250" />
        <rect x="38" y="38" width="194" height="196" />
        <path d="M44 270v14M226 270v14" />
        <path d="M60 252H150" strokeWidth="5" />
        <circle cx="210" cy="252" r="7" fill={done >= 1 ? "var(--leaf)" : "var(--brass)"} />
      </g>
      {Array.from({ length: trays }, (_, n) => {
        const y = 38 + gap * (n + 1);
        const high = Math.min(18, gap * 0.5) * (1 - 0.55 * done);
        return (
          <g key={y}>
            <rect
              x="48"
              y={y - high}
              width="174"
              height={high}
              fill={load?.colour ?? batch.colour}
              stroke="var(--line)"
            />
            <path d={`M42 ${y}H228`} stroke="var(--line)" strokeWidth="3" />
          </g>
        );
      })}
    </svg>
  );
}

/** Basket, kettle and pan: fruit sinks, juice gathers, water goes. */
function Steamer({ batch, step }: { batch: BatchView; step: StepView }) {
  const now = useNow(5000);
  const done = shareDone(step, now);
  const lot = batch.lots.find((l) => step.gives.includes(l.key) && l.kind === "juice");
  const juice = (lot?.predicted.volume_ml.typ ?? 0) * done ** 1.3;
  const fruit = 92 - 44 * done;
  const gathered = 8 + 34 * done ** 1.3;
  const pan = step.pan
    ? Math.max(
        0,
        Math.min(
          1,
          (new Date(step.pan.dry_at).getTime() - now) /
            (new Date(step.pan.dry_at).getTime() - new Date(step.pan.since).getTime()),
        ),
      )
    : 1;
  return (
    <svg
      viewBox="0 0 270 300"
      className="block w-full"
      role="img"
      aria-label={`Steam juicer, about ${litres(juice)} of juice so far`}
    >
      <g fill="var(--paper)" stroke="var(--line)" strokeWidth="2.5">
        <path d="M28 48Q115 6 202 48Z" />
        <circle cx="115" cy="19" r="7" fill="var(--line)" />
        <rect x="24" y="48" width="182" height="108" />
        <rect x="14" y="156" width="202" height="66" />
        <rect x="8" y="222" width="214" height="70" />
      </g>
      <rect
        x="28"
        y={152 - fruit}
        width="174"
        height={fruit}
        fill={mix(ofFruit(batch.colour), "#b7a58b", done * 0.6)}
      />
      <rect x="18" y={218 - gathered} width="194" height={gathered} fill={batch.colour} />
      <rect x="12" y={288 - 52 * pan} width="206" height={52 * pan} fill="var(--water)" />
      <path d="M216 196h16q14 0 14 16v76" fill="none" stroke="var(--line)" strokeWidth="7" />
      <rect
        x="236"
        y="228"
        width="20"
        height="10"
        fill="var(--hip)"
        stroke="var(--line)"
        strokeWidth="1.5"
      />
      <g className="font-text" fontSize="16" fontWeight="700" textAnchor="middle">
        <Plate
          x={115}
          y={112}
          text={
            step.phase === "running"
              ? `${step.title.replace("Steam load", "load")}`
              : "fruit, mounded level"
          }
        />
        <Plate
          x={115}
          y={194}
          text={step.phase === "running" ? `about ${litres(juice)}` : "clamp shut"}
        />
        <Plate x={115} y={266} text={`water, ${litres(1000 * (step.pan?.full_l ?? 4) * pan)}`} />
      </g>
    </svg>
  );
}

function Plate({ x, y, text }: { x: number; y: number; text: string }) {
  const width = text.length * 8.4 + 16;
  return (
    <>
      <rect
        x={x - width / 2}
        y={y - 17}
        width={width}
        height="24"
        fill="var(--paper)"
        stroke="var(--line)"
      />
      <text x={x} y={y} fill="var(--ink)">
        {text}
      </text>
    </>
  );
}

/** A pot, with a thermometer that shows the mark to reach where there is one. */
function Pot({ batch, step }: { batch: BatchView; step: StepView }) {
  const last = step.readings.filter((r) => r.quantity === "temp_c").at(-1)?.value;
  const target = step.target_c ?? 88;
  const inPieces = batch.lots.some(
    (l) => step.takes.includes(l.key) && WHOLE.has(l.predicted.kind),
  );
  const y = (t: number) => 250 - 200 * Math.max(0, Math.min(1, (t - 20) / 85));
  return (
    <svg
      viewBox="0 0 270 300"
      className="block w-full"
      role="img"
      aria-label={
        step.target_c
          ? `Pot, to ${temperature(target)}, last read ${temperature(last, 0.1)}`
          : `Pot: ${step.title}`
      }
    >
      <rect
        x="20"
        y="120"
        width="170"
        height="150"
        fill="var(--paper)"
        stroke="var(--line)"
        strokeWidth="2.5"
      />
      <rect x="23" y="165" width="164" height="102" fill={batch.colour} />
      <path d="M4 150h16M190 150h16" stroke="var(--line)" strokeWidth="7" />
      {step.target_c === null && inPieces && <Pieces colour={ofFruit(batch.colour)} />}
      {step.target_c === null && <Steam />}
      {step.target_c !== null && <Thermometer y={y} last={last} target={target} />}
    </svg>
  );
}

const WHOLE = new Set(["fruit", "mash", "pomace"]);

/** Fruit afloat in its liquor. */
function Pieces({ colour }: { colour: string }) {
  return (
    <g fill={colour} stroke="var(--line)" strokeWidth="1.5">
      {[48, 84, 122, 160].map((x, i) => (
        <circle key={x} cx={x} cy={172 + (i % 2) * 22} r="15" />
      ))}
    </g>
  );
}

/** What rises from an open pot. */
function Steam() {
  return (
    <path
      d="M60 96q8 -12 0 -24M105 96q8 -12 0 -24M150 96q8 -12 0 -24"
      fill="none"
      stroke="var(--slate)"
      strokeWidth="3"
    />
  );
}

type ThermometerProps = { y: (t: number) => number; last: number | undefined; target: number };

function Thermometer({ y, last, target }: ThermometerProps) {
  return (
    <>
      <rect
        x="225"
        y="34"
        width="18"
        height="216"
        rx="9"
        fill="var(--paper)"
        stroke="var(--line)"
        strokeWidth="2"
      />
      <circle cx="234" cy="262" r="16" fill="var(--hip)" stroke="var(--line)" strokeWidth="2" />
      <rect x="230" y={y(last ?? 40)} width="8" height={256 - y(last ?? 40)} fill="var(--hip)" />
      <path d={`M216 ${y(target)}h36`} stroke="var(--leaf)" strokeWidth="4" />
      <text
        x="208"
        y={y(target) + 6}
        textAnchor="end"
        fontSize="18"
        fontWeight="700"
        fill="var(--ink)"
      >
        {temperature(target)}
      </text>
      {last !== undefined && (
        <text
          x="208"
          y={y(last) + 6}
          textAnchor="end"
          fontSize="18"
          fontWeight="700"
          fill="var(--hip)"
        >
          {temperature(last, 0.1)}
        </text>
      )}
    </>
  );
}

/** A jar whose kind is not listed any more. */
const USUAL = { radius_mm: 38, height_mm: 115, nominal_ml: 473 };

/** Jars of a step: under water in the canner, on cloth on the rack, on a tray to be filled. */
function Jars({ batch, step }: { batch: BatchView; step: StepView }) {
  const real = batch.jars.filter((j) => step.jar_ids.includes(j.id));
  const planned = step.role === "fill" ? step.packing : batch.jars_ready;
  const poured = batch.ends.some((e) => e.step_id === step.id && e.keep === "now");
  const shapes = useQuery(kitchenQuery).data?.jar_kinds ?? [];
  const wet = step.wet;
  const drawn = real.length
    ? real
    : planned.flatMap((p) => {
        const shape = shapes.find((k) => k.key === p.kind) ?? USUAL;
        return Array.from({ length: Math.min(p.count, 12) }, (_, i) => ({
          ...shape,
          id: `${p.kind}-${i}`,
          kind: p.kind,
          fill_ml: 0,
          lid: "",
        }));
      });
  const boiling = wet && step.clock_from !== null && step.phase === "running";
  return (
    <div
      className={`relative flex min-h-48 flex-wrap items-end justify-center gap-1 border-2 border-line p-3 ${wet ? "bg-water pt-8" : "bg-paper"}`}
    >
      {boiling && (
        <span aria-hidden="true" className="absolute inset-x-4 top-2 flex justify-around">
          {[0, 1, 2, 3, 4].map((i) => (
            <span
              key={i}
              className="size-3 motion-safe:animate-[simmer_0.9s_infinite] rounded-full border-2 border-line bg-paper"
              style={{ animationDelay: `${i * 0.17}s` }}
            />
          ))}
        </span>
      )}
      {poured &&
        ["left", "middle", "right"].map((place) => (
          <Tumbler key={place} colour={batch.colour} height={84} />
        ))}
      {drawn.slice(0, 12).map((j) => (
        <Container
          key={j.id}
          kind={j.kind}
          lid={j.lid || undefined}
          radiusMm={j.radius_mm}
          heightMm={j.height_mm}
          scale={0.5}
          level={real.length ? (j.fill_ml / j.nominal_ml) * 0.92 : 0}
          colour={batch.colour}
        />
      ))}
    </div>
  );
}
