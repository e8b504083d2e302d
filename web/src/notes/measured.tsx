import type { FigureRow } from "@/api/types";
import { plain } from "@/lib/format";
import { measureOf, shown } from "@/lib/units";

/** Every figure that was measured, on the range that was planned for it. */
export function Measured({ figures }: { figures: FigureRow[] }) {
  if (figures.length === 0) return null;
  return (
    <section aria-label="Planned and measured">
      <h2>Planned and measured</h2>
      <ul className="mt-1">
        {figures.map((row) => (
          <li
            key={`${row.lot}-${row.quantity}`}
            className="grid grid-cols-[1fr_auto] items-center gap-x-4 border-slate/40 border-b py-2 text-lg wide:grid-cols-[13rem_1fr_7rem]"
          >
            <span>{row.lot}</span>
            <span className="max-wide:order-3 max-wide:col-span-2">
              <OnItsRange row={row} />
            </span>
            <span className="text-right font-bold tabular-nums">{said(row, row.measured)}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

const [W, H, PAD] = [260, 34, 12];

/** The range that was planned as a band, and a mark where the measured figure came out. */
function OnItsRange({ row }: { row: FigureRow }) {
  const { planned, measured } = row;
  if (!planned || planned.hi <= planned.lo) return null;
  const from = Math.min(planned.lo, measured);
  const to = Math.max(planned.hi, measured);
  const x = (v: number) => PAD + ((W - 2 * PAD) * (v - from)) / (to - from || 1);
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      role="img"
      aria-label={`planned ${said(row, planned.lo)} to ${said(row, planned.hi)}`}
      className="block w-full max-w-sm"
    >
      <rect
        x={x(planned.lo)}
        y="4"
        width={Math.max(2, x(planned.hi) - x(planned.lo))}
        height="9"
        fill="var(--tag)"
        stroke="var(--line)"
      />
      <path d={`M${x(measured)} 1V16`} stroke="var(--elder)" strokeWidth="4" />
      <text x={x(planned.lo)} y={H - 4} fontSize="13" fill="var(--slate)">
        {figure(row, planned.lo)}
      </text>
      <text x={x(planned.hi)} y={H - 4} fontSize="13" textAnchor="end" fill="var(--slate)">
        {figure(row, planned.hi)}
      </text>
    </svg>
  );
}

const figure = (row: FigureRow, value: number): string =>
  plain(shown(value, measureOf(row.quantity, row.unit)));

const said = (row: FigureRow, value: number): string =>
  `${figure(row, value)} ${measureOf(row.quantity, row.unit).unit}`.trim();
