import { Collapsible } from "radix-ui";
import type { EndView, PlanView, ProcessView } from "@/api/types";
import { altitudeOfFeet, count, days, jarSize, room, temperature } from "@/lib/format";
import { DEFER } from "@/lib/words";
import { boiledIn } from "@/methods/words";
import { FindingRow, Mark } from "@/ui/verdict";

const SCHOOL: Record<string, string> = {
  row: "the row's own altitude band",
  banded: "adding by altitude band",
  per_thousand: "adding by each 1000 ft",
};

/** The verdict on an end, under its jars: may it stand on a shelf, and how long it keeps. */
export function EndVerdict({
  end,
  onChange,
  brief,
  of,
}: {
  end: EndView;
  onChange: (change: string) => void;
  brief: boolean;
  /** Which end it is on, where there are several. */
  of: string;
}) {
  const stops = end.findings.filter((f) => f.level === "stop");
  const open = end.findings.filter((f) => f.level !== "stop" && f.of_case);
  return (
    <section aria-label={of ? `Verdict on ${of}` : "Verdict"} className="mt-2">
      <ul className="grid gap-2">
        {stops.map((f) => (
          <FindingRow key={f.id} finding={f} onChange={onChange} />
        ))}
        {end.process && <Time process={end.process} waiting={stops.length > 0} brief={brief} />}
        {open.map((f) => (
          <FindingRow key={`${f.id}-${f.place}`} finding={f} />
        ))}
        {(end.process || end.keep !== "shelf") && !brief && <Life end={end} />}
      </ul>
    </section>
  );
}

/** What to mind and to know, each at its step; and whom to follow. */
export function Cautions({ plan }: { plan: PlanView }) {
  const cautions = plan.findings.filter((f) => f.level === "caution" && !f.of_case);
  const notes = plan.findings.filter((f) => f.level === "note");
  return (
    <section aria-label="Cautions">
      <Collapsible.Root>
        <Collapsible.Trigger className="min-h-8 text-left text-lg underline decoration-dotted underline-offset-4">
          {count(cautions.length, "caution")} and {count(notes.length, "note")}, each at its step
        </Collapsible.Trigger>
        <Collapsible.Content>
          <ul className="mt-2 grid gap-3">
            {[...cautions, ...notes].map((f) => (
              <FindingRow key={f.id} finding={f} />
            ))}
          </ul>
        </Collapsible.Content>
      </Collapsible.Root>
      <p className="mt-2 text-base text-slate">{DEFER}</p>
    </section>
  );
}

type TimeProps = { process: ProcessView; waiting: boolean; brief: boolean };

function Time({ process, waiting, brief }: TimeProps) {
  const evidence =
    { table: "government table", own: "your own tested source" }[process.evidence] ??
    "extension practice";
  return (
    <li className="flex gap-3">
      <Mark level={waiting ? "note" : "yes"} />
      <Collapsible.Root className="min-w-0">
        <p className="font-bold text-lg leading-snug">
          {waiting ? "Then" : "Yes:"} {process.minutes} min in {boiledIn(process)}
        </p>
        <p className={`text-slate ${brief ? "hidden" : ""}`}>
          {process.product.replaceAll("_", " ")}, jars to {jarSize(process.jar_ml)}, {evidence}
          {process.sterilise_min ? `; sterilise the jars ${process.sterilise_min} min first` : ""}
        </p>
        <Collapsible.Trigger
          className={`min-h-6 text-base text-slate underline decoration-dotted underline-offset-4 ${brief ? "hidden" : ""}`}
        >
          source
        </Collapsible.Trigger>
        <Collapsible.Content className="text-base text-slate">
          <p>
            {process.source}, row {process.row}, at {altitudeOfFeet(process.altitude_ft)}. Fill at{" "}
            {temperature(process.fill_c)}, {room(process.headspace_mm)} of room.
          </p>
          <ul>
            {Object.entries(process.schools).map(([school, m]) => (
              <li key={school}>
                {m} min by {SCHOOL[school] ?? school}
              </li>
            ))}
          </ul>
          <p>The longest is taken.</p>
        </Collapsible.Content>
      </Collapsible.Root>
    </li>
  );
}

function Life({ end }: { end: EndView }) {
  const { days_lo, days_hi, temp_c } = end.life;
  return (
    <li className="flex gap-3">
      <Mark level="note" />
      <p className="font-bold text-lg leading-snug">
        {end.keep === "now" ? "What is left keeps" : "Keeps"} {days(days_lo, days_hi)} at{" "}
        {temperature(temp_c)}
        <span className="block font-normal text-base text-slate">
          at its best; safety has its own rules
        </span>
      </p>
    </li>
  );
}
