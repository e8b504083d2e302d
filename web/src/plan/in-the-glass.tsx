import { useState } from "react";
import type { EndView, ServingView } from "@/api/types";
import { days, holds, litres, plain } from "@/lib/format";

/** How an end is drunk: thinned in the glass and the jug, or mixed with the one kept apart. */
export function InTheGlass({ end }: { end: EndView }) {
  return (
    <>
      <Thin servings={end.servings} />
      {end.mixed && (
        <p className="mt-1 text-slate">
          when used, <b className="text-ink">1 : {plain(end.mixed.parts)}</b> with{" "}
          {end.mixed.label.toLowerCase()}: mixed, it keeps{" "}
          {days(end.mixed.life.days_lo, end.mixed.life.days_hi)} cold
        </p>
      )}
    </>
  );
}

/** Parts of water to one, and what that is in a glass and in a jug; pressed for another drink. */
function Thin({ servings }: { servings: ServingView[] }) {
  const [with_, setWith] = useState(0);
  const s = servings[with_] ?? servings[0];
  if (!s) return null;
  const jug = s.jugs.at(-1);
  return (
    <button
      type="button"
      title={`the ${s.limited_by === "sweet" ? "sweetness" : "sharpness"} asks for so much`}
      onClick={() => setWith((with_ + 1) % servings.length)}
      className="mt-1 block min-h-8 text-left text-slate"
    >
      thin <b className="text-ink">1 : {plain(s.parts)}</b> with{" "}
      <span className="underline decoration-dotted underline-offset-4">{s.diluent}</span>:{" "}
      {litres(s.base_ml)} in a glass of {holds(s.glass_ml)}
      {jug && `, ${litres(jug.base_ml)} in the ${holds(jug.jug_ml)} jug`}
    </button>
  );
}
