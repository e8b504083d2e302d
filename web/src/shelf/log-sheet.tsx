import { useRef, useState } from "react";
import { useLive } from "@/api/changes";
import { api, body } from "@/api/client";
import type { ShelfPlace } from "@/api/types";
import { measureOf, typed } from "@/lib/units";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { NumberField, parse } from "@/ui/field";
import { Said } from "@/ui/notice";

type Props = { place: ShelfPlace; open: boolean; onClose: () => void };

/** How warm it is at a place: a figure as it is now, or a logger's file. */
export function LogSheet({ place, open, onClose }: Props) {
  const [text, setText] = useState("");
  const file = useRef<HTMLInputElement>(null);
  const done = () => {
    setText("");
    onClose();
  };
  const path = { place_id: place.id };
  const now = useLive(
    (temp_c: number) =>
      body(api.POST("/api/places/{place_id}/readings", { params: { path }, body: { temp_c } })),
    done,
  );
  const log = useLive(
    (lines: string) =>
      body(api.POST("/api/places/{place_id}/log", { params: { path }, body: { text: lines } })),
    done,
  );
  const measure = measureOf("temp_c");
  const figure = parse(text);
  return (
    <Dialog
      open={open}
      onClose={onClose}
      title={`How warm is it at ${place.name}?`}
      lead="What stands there ages by it, and its days are set anew."
    >
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (figure !== null) now.mutate(typed(figure, measure));
        }}
      >
        <NumberField
          label="The thermometer shows"
          unit={measure.unit}
          value={text}
          onChange={setText}
          autoFocus
        />
        <Button kind="go" type="submit" disabled={figure === null || Number.isNaN(figure)}>
          That is how warm it is today
        </Button>
      </form>
      <input
        ref={file}
        type="file"
        accept=".csv,.txt,text/csv,text/plain"
        aria-label="A logger's file"
        className="sr-only"
        onChange={async (e) => {
          const chosen = e.target.files?.[0];
          if (chosen) log.mutate(await chosen.text());
        }}
      />
      <Button kind="quiet" className="mt-3" onClick={() => file.current?.click()}>
        From a logger's file: times and temperatures
      </Button>
      <Said error={now.error ?? log.error} />
    </Dialog>
  );
}
