import type { SafetyView } from "@/api/types";
import { jarSize, plain, temperature } from "@/lib/format";
import { DEFER } from "@/lib/words";

/** The altitude card: this kitchen's minutes on one sheet, for the inside of a cupboard door. */
export function Card({ safety }: { safety: SafetyView }) {
  const sizes = safety.card_sizes_ml;
  if (safety.altitude_m === null)
    return (
      <p className="mt-4 text-xl">Enter the kitchen's altitude first: every time hangs on it.</p>
    );
  return (
    <section
      aria-label="Altitude card"
      className="mt-4 overflow-x-auto border-2 border-line bg-paper p-4 wide:max-w-3xl"
    >
      <h2 className="text-2xl">{safety.kitchen}</h2>
      <p className="text-lg">
        {plain(safety.altitude_m, 1)} m, {plain(safety.altitude_ft, 1)} ft · water boils at{" "}
        <b>{temperature(safety.boiling_point_c, 0.1)}</b> · empty jars boil {safety.sterilise_min}{" "}
        min where the time is under 10
      </p>
      <table className="mt-2 w-full text-lg">
        <caption className="sr-only">Minutes in boiling water by product and largest jar</caption>
        <thead>
          <tr className="border-line border-b-2 text-left">
            <th scope="col" className="py-1 pr-3">
              minutes at a full boil
            </th>
            {sizes.map((s) => (
              <th scope="col" key={s} className="px-2 text-right">
                to {jarSize(s)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {safety.card.map((line) => (
            <tr key={line.product} className="border-slate/40 border-b">
              <th scope="row" className="py-1 pr-3 text-left font-normal">
                {line.product}
              </th>
              {line.minutes.map((minutes, i) => (
                <td key={sizes[i]} className="px-2 text-right font-bold">
                  {minutes}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 text-base text-slate">
        A blank has no tested time: chill or freeze. Count only from a full boil; if it is lost,
        begin again. {DEFER}
      </p>
    </section>
  );
}
