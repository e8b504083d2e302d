import type { ReactNode } from "react";
import type { BatchView, StepView } from "@/api/types";
import { mix, ofFruit } from "@/lib/colour";
import { litres, mass } from "@/lib/format";

type Props = { batch: BatchView; step: StepView; done: number };

/** A bowl on the worktop with what stands over it: a cloth, a weighted colander, a press, a sieve. */
export function Bowl({ batch, step, done }: Props) {
  const out = batch.lots.find((l) => l.key === step.gives[0]);
  const juice = out?.kind === "juice";
  const fruit = ofFruit(batch.colour);
  const expected = out?.now_ml.typ ?? 0;
  const share = juice ? 0.15 + 0.85 * done : 0.9;
  const words = juice ? `about ${litres(expected * (step.phase === "running" ? done : 1))}` : "";
  const weight = out ? mass(out.mass_g ?? out.predicted.mass_g.typ) : "";
  return (
    <svg
      viewBox="0 0 270 300"
      className="block w-full"
      role="img"
      aria-label={`${step.title}: ${juice ? words : weight}`}
    >
      {over(step.drawing, mix(fruit, "#b7a58b", juice ? done * 0.6 : 0), done)}
      <path
        d="M28 190H242C238 250 204 284 135 284S32 250 28 190Z"
        fill="var(--paper)"
        stroke="var(--line)"
        strokeWidth="2.5"
      />
      <clipPath id={`bowl-${step.id}`}>
        <path d="M31 193H239C235 249 202 281 135 281S35 249 31 193Z" />
      </clipPath>
      <rect
        x="28"
        y={284 - 84 * share}
        width="214"
        height={84 * share}
        fill={juice ? batch.colour : fruit}
        clipPath={`url(#bowl-${step.id})`}
      />
      <Tag text={juice ? words : weight} />
    </svg>
  );
}

function Tag({ text }: { text: string }) {
  if (!text) return null;
  const width = text.length * 8.6 + 18;
  return (
    <g fontSize="16" fontWeight="700" textAnchor="middle" className="font-text">
      <rect
        x={135 - width / 2}
        y="226"
        width={width}
        height="25"
        fill="var(--paper)"
        stroke="var(--line)"
      />
      <text x="135" y="244" fill="var(--ink)">
        {text}
      </text>
    </g>
  );
}

function over(drawing: string, fruit: string, done: number): ReactNode {
  const line = { stroke: "var(--line)", strokeWidth: 2.5 };
  if (drawing === "cloth")
    return (
      <g {...line}>
        <path d="M40 24H230" strokeWidth="6" />
        <path d="M135 24V44" fill="none" />
        <path
          d={`M135 44C96 70 ${82 + 14 * done} 96 ${88 + 12 * done} 130S182 164 ${182 - 12 * done} 130 174 70 135 44Z`}
          fill={fruit}
        />
        <path d="M135 160v10M135 176v8" fill="none" stroke="var(--hip)" />
      </g>
    );
  if (drawing === "weight")
    return (
      <g {...line}>
        <rect x="96" y={58 + 34 * done} width="78" height="40" fill="var(--wood)" />
        <rect x="70" y={98 + 34 * done} width="130" height="10" fill="var(--paper)" />
        <rect x="66" y={108 + 34 * done} width="138" height={64 - 34 * done} fill={fruit} />
        <path d="M52 96H218L198 176H72Z" fill="none" />
        <path d="M92 120h4M120 140h4M150 120h4M172 140h4M108 158h4M156 158h4" />
      </g>
    );
  if (drawing === "press")
    return (
      <g {...line}>
        <path d="M135 14V92M92 22H178" fill="none" strokeWidth="7" />
        <rect x="82" y={84 + 36 * done} width="106" height="14" fill="var(--wood)" />
        <rect x="86" y={98 + 36 * done} width="98" height={78 - 36 * done} fill={fruit} />
        <path d="M78 90V178M192 90V178M104 90V178M166 90V178" fill="none" />
      </g>
    );
  if (drawing === "sieve")
    return (
      <g {...line}>
        <path d="M56 118H214C206 158 178 172 135 172S64 158 56 118Z" fill="var(--tag)" />
        <path d="M214 122H262" fill="none" strokeWidth="7" />
        <path d="M84 140h100M96 154h78" fill="none" strokeWidth="1" strokeDasharray="3 5" />
      </g>
    );
  return (
    <g stroke="var(--line)" strokeWidth="1.5" fill={fruit}>
      {[
        [80, 176, 20],
        [118, 168, 24],
        [160, 172, 22],
        [196, 178, 17],
        [138, 142, 20],
        [102, 146, 17],
      ].map(([x, y, r]) => (
        <circle key={`${x}`} cx={x} cy={y} r={r} />
      ))}
    </g>
  );
}
