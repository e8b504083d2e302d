import { Link } from "react-router";
import type { ProcessView, StepView } from "@/api/types";
import { altitudeOfFeet, jarSize, plain, room, temperature } from "@/lib/format";

/** The process card: what the minutes are for, and where they are from. */
export function ProcessCard({ process, step }: { process: ProcessView | null; step: StepView }) {
  if (!process || step.role !== "process") return null;
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-4 border-2 border-line bg-paper p-3 text-lg">
      <dt className="text-slate">time</dt>
      <dd className="font-bold">
        {plain(step.minutes.typ, 1)} min at a full{" "}
        {process.heater === "bath" ? "boil" : "head of steam"}, at{" "}
        {altitudeOfFeet(process.altitude_ft)}
      </dd>
      <dt className="text-slate">for</dt>
      <dd>
        {process.product.replaceAll("_", " ")}, jars to {jarSize(process.jar_ml)}
      </dd>
      <dt className="text-slate">filled</dt>
      <dd>
        at {temperature(process.fill_c)}, {room(process.headspace_mm)} of room
      </dd>
      <dt className="text-slate">source</dt>
      <dd>
        <Link
          to={`/safety?find=${encodeURIComponent(process.product.replaceAll("_", " "))}`}
          className="underline underline-offset-4"
        >
          {process.source}
        </Link>
      </dd>
    </dl>
  );
}
