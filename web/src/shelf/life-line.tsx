import type { JarView } from "@/api/types";
import { date, noonOf, plain, untilDate } from "@/lib/format";
import { Bar, BrassTick } from "@/ui/scale";

/** The jar's life as a line: used so far, best-by, and the band within which it fades. */
export function LifeLine({ jar, now, small }: { jar: JarView; now: number; small?: boolean }) {
  const life = jar.best_by;
  if (!life) return <p className="text-lg">It does not keep where it is: move it to the cold.</p>;
  const day = (d: string) => noonOf(d).getTime();
  const from = new Date(jar.filled_at).getTime();
  const end = Math.max(day(life.hi), now);
  const x = (t: number) => 8 + 564 * Math.max(0, Math.min(1, (t - from) / (end - from)));
  const past = day(life.typ) < now;
  const near = day(life.typ) < now + 70 * 86_400_000;
  return (
    <>
      <p className={small ? "text-lg" : "text-xl"}>
        <span className={`font-bold ${past ? "text-hip" : ""}`}>Best by {date(life.typ, now)}</span>
        <span className="text-slate">
          {near ? ` (${untilDate(life.typ, now)})` : ""}, between {date(life.lo, now)} and{" "}
          {date(life.hi, now)}
        </span>
      </p>
      <svg viewBox="0 0 580 34" className="mt-2 block w-full max-w-2xl" aria-hidden="true">
        <line x1="8" x2="572" y1="17" y2="17" stroke="var(--line)" strokeWidth="2" />
        <Bar
          range={{ lo: day(life.lo), hi: day(life.hi) }}
          x={x}
          y={10}
          height={14}
          fill="var(--tag)"
          stroke="var(--line)"
        />
        <rect x="8" width={Math.max(0, x(now) - 8)} y="13" height="8" fill={jar.colour} />
        <BrassTick at={x(day(life.typ))} from={3} to={31} width={4} />
        <circle
          cx={x(now)}
          cy="17"
          r="6"
          fill="var(--paper)"
          stroke="var(--line)"
          strokeWidth="2"
        />
      </svg>
      <p className="text-slate">
        {plain(Math.min(999, life.used * 100), 1)} % of its usual life used · {life.words}
      </p>
      {life.ready && day(life.ready) > now && (
        <p className="mt-1 font-bold text-lg">
          Not ready before {date(life.ready, now)}: its fruit is still giving to it.
        </p>
      )}
    </>
  );
}
