import type { ReactElement } from "react";
import type { Props } from "@/bench/pictures/drawn";
import { Drying, Tray } from "@/bench/pictures/dried";
import { Bottles, Citrus, Drink, Glasses, Jug, Sharp } from "@/bench/pictures/glasses";
import { Pot, SteamPan, Thermometer } from "@/bench/pictures/pots";
import { Clock, Crystals, InJar, Plate, Scale } from "@/bench/pictures/shelf";
import type { Key } from "@/bench/sums";

const PICTURES: Record<Key, (props: Props) => ReactElement> = {
  sweeten: Jug,
  "boil-down": Pot,
  thermometer: Thermometer,
  sharpen: Sharp,
  blend: Glasses,
  citrus: Citrus,
  "cold-plate": Plate,
  crystals: Crystals,
  bottle: Bottles,
  thin: Drink,
  "in-jar": InJar,
  measures: Scale,
  "process-time": Clock,
  "steam-pan": SteamPan,
  "freeze-dry": Tray,
  "air-dry": Drying,
  "back-again": Drink,
};

type Shown = Omit<Props, "small"> & { sum: Key; small?: boolean };

/** A sum as one sees it on the table; its figures stand beside it in words. */
export function Picture({ sum, draws, curve, small }: Shown) {
  const Drawn = PICTURES[sum];
  return (
    <svg
      viewBox="0 0 360 292"
      aria-hidden="true"
      className={small ? "h-16 w-20" : "w-full max-w-105"}
    >
      <Drawn draws={draws} curve={curve} small={small ?? false} />
    </svg>
  );
}
