import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useFurnish } from "@/api/changes";
import { Refused } from "@/api/client";
import { effectQuery } from "@/api/queries";
import type { Effect, KitchenView } from "@/api/types";
import { jarSize, plain, temperature } from "@/lib/format";
import { measureIn, typed } from "@/lib/units";
import { Button } from "@/ui/button";
import { Choice } from "@/ui/choice";
import { NumberField, parse } from "@/ui/field";
import { Said } from "@/ui/notice";

/** Altitude or barometer; where water boils and what the tested times become, as it is typed. */
export function PlaceOnEarth({ kitchen }: { kitchen: KitchenView }) {
  const furnish = useFurnish();
  const [by, setBy] = useState<"altitude" | "feet" | "barometer">(
    kitchen.pressure_hpa !== null && kitchen.altitude_m === null ? "barometer" : "altitude",
  );
  const [altitude, setAltitude] = useState(shown(kitchen.altitude_m));
  const [pressure, setPressure] = useState(shown(kitchen.pressure_hpa));
  const measure = measureIn(by === "feet" ? "us" : "metric", "altitude_m");
  const height = parse(altitude);
  const metres = height === null || Number.isNaN(height) ? null : typed(height, measure);
  const hpa = parse(pressure);
  const asked = by === "barometer" ? ([null, hpa] as const) : ([metres, hpa] as const);
  const effect = useQuery(effectQuery(...asked));
  const shownEffect = effect.data ?? kitchen.effect;
  const refused = [furnish.error, effect.error].find((e) => e instanceof Refused);
  const same = (asked[0] ?? null) === kitchen.altitude_m && (hpa ?? null) === kitchen.pressure_hpa;
  return (
    <section
      aria-label="Where it stands"
      className="grid items-start gap-x-10 gap-y-5 border-line border-y-2 py-5 wide:grid-cols-[15rem_11rem_1fr]"
    >
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          furnish.mutate({
            act: "kitchen",
            sent: { altitude_m: asked[0] ?? null, pressure_hpa: hpa },
          });
        }}
      >
        <h2>Where it stands</h2>
        <Choice
          label="Known by"
          value={by}
          onChange={setBy}
          options={[
            { value: "altitude", label: "metres" },
            { value: "feet", label: "feet" },
            { value: "barometer", label: "barometer" },
          ]}
        />
        {by !== "barometer" && (
          <NumberField
            label="Altitude"
            unit={measure.unit}
            value={altitude}
            onChange={setAltitude}
            error={refused?.at("/altitude_m")}
          />
        )}
        <NumberField
          label="Barometer, as it reads here"
          unit="hPa"
          placeholder={by === "barometer" ? "" : "not needed"}
          value={pressure}
          onChange={setPressure}
          error={refused?.at("/pressure_hpa")}
          note={
            by === "barometer" ? "Not reduced to sea level. Weather is allowed for." : undefined
          }
        />
        {!refused?.problem.errors?.length && <Said error={furnish.error} />}
        <Button kind="go" type="submit" disabled={same || furnish.isPending}>
          {same ? "As it stands" : "Keep this"}
        </Button>
      </form>
      <Boils effect={shownEffect} />
      <Times effect={shownEffect} />
    </section>
  );
}

const shown = (value: number | null): string => (value === null ? "" : String(Math.round(value)));

/** A thermometer at the boil. */
function Boils({ effect }: { effect: Effect }) {
  const y = (t: number) => 178 - ((t - 85) / 16) * 150;
  const marks = [88, 92, 96, 100];
  return (
    <figure>
      <svg
        viewBox="0 0 160 214"
        className="block w-full max-w-44"
        role="img"
        aria-label={`Water boils at ${temperature(effect.boiling_point_c, 0.1)}`}
      >
        <rect
          x="44"
          y="14"
          width="20"
          height="172"
          rx="10"
          fill="var(--paper)"
          stroke="var(--line)"
          strokeWidth="2"
        />
        <circle cx="54" cy="192" r="17" fill="var(--hip)" stroke="var(--line)" strokeWidth="2" />
        <rect
          x="50"
          y={y(effect.boiling_point_c)}
          width="8"
          height={186 - y(effect.boiling_point_c)}
          fill="var(--hip)"
        />
        {marks.map((t) => (
          <g key={t}>
            <path d={`M36 ${y(t)}h8`} stroke="var(--line)" strokeWidth="2" />
            <text x="32" y={y(t) + 5} textAnchor="end" fontSize="14" fill="var(--slate)">
              {t}
            </text>
          </g>
        ))}
        <path d={`M66 ${y(effect.boiling_point_c)}h14`} stroke="var(--leaf)" strokeWidth="4" />
        <text
          x="84"
          y={y(effect.boiling_point_c) + 7}
          fontSize="20"
          fontWeight="700"
          fill="var(--leaf)"
        >
          {temperature(effect.boiling_point_c, 0.1)}
        </text>
      </svg>
      <figcaption className="text-base text-slate">
        water boils here, at {plain(effect.pressure_hpa, 1)} hPa
      </figcaption>
    </figure>
  );
}

/** The tested minutes here, as bars: longer is higher up. */
function Times({ effect }: { effect: Effect }) {
  const rows = effect.minutes.filter((m) => m.product !== "jelly");
  const most = Math.max(30, ...rows.map((r) => r.minutes ?? 0));
  if (effect.altitude_m === null)
    return <p className="text-lg">Without an altitude or a barometer there is no tested time.</p>;
  return (
    <figure className="min-w-0">
      <figcaption className="mb-2 text-lg">
        Tested minutes here
        {effect.sterilise_min ? `; empty jars ${effect.sterilise_min} min` : ""}
      </figcaption>
      <ul className="grid gap-1">
        {rows.map((r) => (
          <li
            key={`${r.product}-${r.jar_ml}`}
            className="grid grid-cols-[10.5rem_1fr] wide:grid-cols-[12.5rem_1fr] items-center gap-3 text-base leading-tight"
          >
            <span className="text-slate wide:truncate">
              {r.product.replace("berry or fruit", "fruit")}, {jarSize(r.jar_ml)}
            </span>
            <span className="flex items-center gap-2">
              <span
                aria-hidden="true"
                className="h-3 bg-water"
                style={{ width: `${(66 * (r.minutes ?? 0)) / most}%` }}
              />
              <b className="whitespace-nowrap">
                {r.minutes === null ? "none: ask your food authority" : `${r.minutes} min`}
              </b>
            </span>
          </li>
        ))}
      </ul>
    </figure>
  );
}
