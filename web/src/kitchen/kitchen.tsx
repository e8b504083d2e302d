import { useQuery } from "@tanstack/react-query";
import { kitchenQuery } from "@/api/queries";
import { Jars } from "@/kitchen/jars";
import { Keeping } from "@/kitchen/keeping";
import { Instruments, Measures } from "@/kitchen/measures";
import { People } from "@/kitchen/people";
import { PlaceOnEarth } from "@/kitchen/place-on-earth";
import { Places } from "@/kitchen/places";
import { Stations } from "@/kitchen/stations";
import { Vessels } from "@/kitchen/vessels";
import { Waiting } from "@/ui/notice";

/** Kitchen: where it stands, what is in it, and who cooks. Every change shows what it does. */
export function Kitchen() {
  const kitchen = useQuery(kitchenQuery).data;
  if (!kitchen) return <Waiting />;
  return (
    <div className="grid gap-y-9">
      <header>
        <h1 className="text-3xl">{kitchen.name}</h1>
        <p className="mt-1 text-slate">
          What it says here goes into every plan, time and warning. What nobody knows may stay
          empty.
        </p>
      </header>
      <PlaceOnEarth kitchen={kitchen} />
      <div className="grid gap-x-12 gap-y-9 wide:grid-cols-2">
        <Stations kitchen={kitchen} />
        <Vessels kitchen={kitchen} />
        <Jars kitchen={kitchen} />
        <Places kitchen={kitchen} />
        <Instruments kitchen={kitchen} />
        <Measures kitchen={kitchen} />
        <People kitchen={kitchen} />
        <Keeping kitchen={kitchen} />
      </div>
    </div>
  );
}
