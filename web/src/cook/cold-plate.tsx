import type { StepView } from "@/api/types";
import type { Act } from "@/cook/act";
import { mass, plain, range, temperature } from "@/lib/format";
import { inPounds, OUNCE_G } from "@/lib/units";
import { Button } from "@/ui/button";

type Plate = NonNullable<StepView["plate"]>;
type Props = { step: StepView; act: Act; busy: boolean };

/** What a drop can do on a cold plate, as it is drawn: how wide and how high it lies. */
const DROPS = [
  { word: "runs off", words: "pours like water", wide: 56, high: 6 },
  { word: "spreads", words: "pours like cream", wide: 47, high: 11 },
  { word: "slides", words: "coats a spoon", wide: 37, high: 17 },
  { word: "holds", words: "pours like runny honey", wide: 28, high: 22 },
  { word: "wrinkles", words: "stands like set honey", wide: 23, high: 27 },
  { word: "a ball", words: "sets to toffee", wide: 17, high: 32 },
];

/** The cold plate at the pot: what it will pour like, what the drop did, and how far it still is. */
export function ColdPlate({ step, act, busy }: Props) {
  const plate = step.plate;
  if (!plate) return null;
  const running = step.phase === "running" && step.clock_from !== null;
  const drop = (number: number) =>
    act({
      act: "reading",
      step: step.id,
      reading: { quantity: "drop", value: number, said: "", instrument: "plate" },
    });
  return (
    <section aria-label="The cold plate" className="mt-4 border-line border-t-3 pt-3">
      <Axis plate={plate} />
      {running && (
        <>
          <h3 className="mt-2 text-elder text-xl">What did the drop do?</h3>
          <ul className="mt-2 grid grid-cols-3 gap-2 wide:grid-cols-6">
            {DROPS.map((d, number) => (
              <li key={d.word}>
                <button
                  type="button"
                  disabled={busy}
                  aria-pressed={plate.drop === d.words}
                  aria-label={`The drop ${d.word === "a ball" ? "is a ball" : d.word}`}
                  onClick={() => drop(number)}
                  className={`grid w-full justify-items-center border-2 border-line p-1 pb-2 text-lg ${plate.drop === d.words ? "border-elder bg-tag font-bold outline-2 outline-elder" : "bg-paper"}`}
                >
                  <Drop wide={d.wide} high={d.high} />
                  {d.word}
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
      {running && plate.now && <Now plate={plate} act={act} step={step} busy={busy} />}
      <p className="mt-3 text-lg">
        At the stop it boils at <b>{temperature(plate.stop_c, 0.1)}</b>, {plain(plate.stop_brix, 1)}{" "}
        °Bx
        {plate.inverted_pct >= 1 ? `, ${plain(plate.inverted_pct, 1)} % of its sugar inverted` : ""}
        . In the pot it {plate.hot}; cold it <b>{plate.cold}</b>
        {plate.crystals === "stays clear"
          ? ", and stays clear"
          : `; standing, it ${plate.crystals}`}
        .
      </p>
      <p className="text-slate">{plate.note}</p>
    </section>
  );
}

function Drop({ wide, high }: { wide: number; high: number }) {
  return (
    <svg viewBox="0 0 140 64" aria-hidden="true" className="h-14 w-full">
      <ellipse
        cx="70"
        cy="44"
        rx="66"
        ry="17"
        fill="var(--paper)"
        stroke="var(--line)"
        strokeWidth="3"
      />
      <path
        d={`M${70 - wide} 44Q${70 - wide * 0.7} ${44 - high * 1.3} 70 ${44 - high * 1.3}Q${70 + wide * 0.7} ${44 - high * 1.3} ${70 + wide} 44Q70 ${52} ${70 - wide} 44Z`}
        fill="#b96a1f"
        stroke="var(--line)"
        strokeWidth="2"
      />
    </svg>
  );
}

/** By the newest drop or reading: how sweet it is, what follows, and the water that brings it back. */
function Now({ plate, act, step, busy }: { plate: Plate } & Props) {
  const now = plate.now;
  if (!now) return null;
  const back = plate.back_g ?? 0;
  return (
    <div role="status" className="mt-4 border-elder border-l-6 pl-3">
      <p className="text-2xl">
        By that it has <b>{range(now, 1, 1)} °Bx</b> and, cold, {plate.now_cold}.
      </p>
      {back > 0 ? (
        <div className="mt-2 flex flex-wrap items-center gap-3">
          <p className="text-xl">
            Gone too far: <b>{mass(back)}</b> of water brings it back.
          </p>
          <Button
            disabled={busy}
            onClick={() => act({ act: "water-back", step: step.id, line: amountOf(back) })}
          >
            {amountOf(back)} of water is in
          </Button>
        </div>
      ) : (
        plate.left_min && (
          <p className="text-xl">
            {plate.left_min.hi < 1
              ? "It is there: off the heat."
              : `About ${range(plate.left_min, 1, 1)} min more on this ring.`}
          </p>
        )
      )}
    </div>
  );
}

/** Water as one pours it back: millilitres, or fluid ounces. */
const amountOf = (grams: number): string =>
  inPounds() ? `${plain(grams / OUNCE_G, 0.5)} fl oz` : `${plain(grams, grams < 50 ? 5 : 10)} ml`;

/** Viscosity cold, from water to set: the band it is in, and where it stops. */
function Axis({ plate }: { plate: Plate }) {
  const marks = ["water", "cream", "a spoon", "runny honey", "set honey"];
  const at = (mpa: number) =>
    16 + 588 * Math.max(0, Math.min(1, Math.log10(Math.max(1, mpa)) / 4.8));
  const stop = at(plate.cold_mpa_s);
  const band = plate.now_mpa_s;
  return (
    <figure>
      <figcaption className="font-bold text-lg">Cold, it will pour like</figcaption>
      <svg
        viewBox="0 0 620 78"
        role="img"
        aria-label={`At the stop, cold: ${plate.cold}`}
        className="w-full max-w-160"
      >
        <path d="M16 40H604" stroke="var(--line)" strokeWidth="3" />
        {band && (
          <>
            <rect
              x={at(band.lo)}
              y="28"
              width={Math.max(8, at(band.hi) - at(band.lo))}
              height="24"
              fill="var(--tag)"
              stroke="var(--line)"
            />
            <path d={`M${at(band.typ)} 22V58`} stroke="var(--brass)" strokeWidth="7" />
          </>
        )}
        <path d={`M${stop} 36l-10 -16h20z`} fill="var(--elder)" />
        <text
          x={stop}
          y="14"
          textAnchor="middle"
          fontSize="16"
          fontWeight="bold"
          fill="var(--elder)"
        >
          stop
        </text>
        {marks.map((mark, i) => (
          <text key={mark} x={[16, 138, 262, 392, 510][i]} y="74" fontSize="17" fill="var(--slate)">
            {mark}
          </text>
        ))}
      </svg>
    </figure>
  );
}
