import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { hobQuery } from "@/api/queries";
import type { HobSlot } from "@/api/types";
import { useZone } from "@/api/use-zone";
import { ringing, silence, useRinging } from "@/frame/ringing";
import { clock, timeOfDay } from "@/lib/format";
import { useNow } from "@/lib/use-now";

/** One slot for each station in use: what it holds, its time as a draining level, what it needs. */
export function HobRail() {
  const slots = useQuery(hobQuery).data ?? [];
  const now = useNow();
  const zone = useZone();
  useRinging(slots, now);
  if (slots.length === 0) return null;
  const paired = slots.length > 2;
  return (
    <section aria-label="On the hob" className="border-slate border-t-4 bg-iron">
      <ul
        className={`mx-auto grid max-w-[80rem] gap-2 px-3 py-2 wide:auto-cols-fr wide:grid-flow-col wide:gap-3 wide:px-6 wide:py-2.5 ${paired ? "max-wide:grid-cols-2" : ""}`}
      >
        {slots.slice(0, 4).map((slot) => (
          <li key={slot.step_id} className="min-w-0">
            <Slot slot={slot} now={now} zone={zone} paired={paired} />
          </li>
        ))}
      </ul>
    </section>
  );
}

type SlotProps = { slot: HobSlot; now: number; zone: string; paired: boolean };

/** paired: two stand beside each other on a phone, their times under what they hold. */
function Slot({ slot, now, zone, paired }: SlotProps) {
  const { left, share } = timeLeft(slot, now);
  const rings = ringing(slot, now);
  const warns = slot.warn_at !== null && new Date(slot.warn_at).getTime() <= now;
  const cooling = slot.role === "cool";
  return (
    <Link
      to={`/cook/${slot.batch_id}?step=${slot.step_id}`}
      onClick={() => silence(slot)}
      className={`relative flex min-h-11 items-center justify-between gap-x-3 overflow-hidden bg-iron-slot px-3 py-1 text-[#fffdf7] wide:min-h-14 ${paired ? "max-wide:flex-col max-wide:items-start" : ""} ${rings ? "motion-safe:animate-[ring_1s_infinite] outline-2 outline-brass" : ""}`}
    >
      <span
        aria-hidden="true"
        style={{ width: `${share * 100}%` }}
        className={`absolute inset-y-0 left-0 ${slot.role === "process" ? "bg-iron-hot" : "bg-iron-fill"}`}
      />
      <span className={`relative min-w-0 flex-1 ${paired ? "max-wide:w-full" : ""}`}>
        <span className="hidden truncate text-base text-iron-soft leading-tight wide:block">
          {slot.station}
        </span>
        <span className="block truncate font-bold text-lg leading-tight">{slot.holds}</span>
      </span>
      <span
        className={`relative shrink-0 ${paired ? "wide:max-w-[52%] wide:text-right" : "max-w-[52%] text-right"}`}
      >
        <span className="block font-bold text-xl leading-tight">
          {left === null
            ? ""
            : cooling
              ? left > 0
                ? timeOfDay(slot.due_at, zone)
                : "seal check"
              : left > 0
                ? clock(left)
                : "now"}
        </span>
        <span className="hidden truncate text-base text-iron-soft leading-tight wide:block">
          {under(slot, left, warns, zone)}
        </span>
      </span>
    </Link>
  );
}

/** The line under the time: a warning, the end of the seal check's window, or what comes next. */
function under(slot: HobSlot, left: number | null, warns: boolean, zone: string): string {
  if (warns) return slot.warning;
  if (slot.role !== "cool" || left === null) return slot.next;
  return left > 0 ? "seal check from then" : `until ${timeOfDay(slot.until, zone)}`;
}

function timeLeft(slot: HobSlot, now: number): { left: number | null; share: number } {
  if (!slot.due_at || !slot.clock_from) return { left: null, share: 0 };
  const [due, from] = [new Date(slot.due_at).getTime(), new Date(slot.clock_from).getTime()];
  const share = due > from ? Math.max(0, Math.min(1, (due - now) / (due - from))) : 0;
  return { left: (due - now) / 1000, share };
}
