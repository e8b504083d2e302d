import { type ReactNode, useState } from "react";
import type { Furnishing } from "@/api/changes";
import { EditSheet, type Field, type Values } from "@/kitchen/edit-sheet";
import { Part } from "@/kitchen/part";
import { Button } from "@/ui/button";

type Row = { id: number; name: string };

type Props<R extends Row> = {
  name: string;
  what: Furnishing;
  /** What one more of them is called, such as "A new place". */
  one: string;
  rows: R[];
  /** What stands there when there are none. */
  none?: string;
  fresh: Values;
  fields: (values: Values) => Field[];
  values: (row: R) => Values;
  /** What is sent of the values; all of them where nothing is said. */
  sent?: (values: Values) => Record<string, unknown>;
  list: string;
  row: string;
  children: (row: R) => ReactNode;
};

/** Things of one kind that stand in a kitchen: pressed to change, added to, taken away. */
export function Rows<R extends Row>(props: Props<R>) {
  const { what, rows, fresh, sent = (values: Values): Record<string, unknown> => values } = props;
  const [open, setOpen] = useState<R | "new" | null>(null);
  const row = open === "new" ? null : open;
  const close = () => setOpen(null);
  return (
    <Part
      name={props.name}
      add={
        <Button size="small" kind="quiet" onClick={() => setOpen("new")}>
          add one
        </Button>
      }
    >
      {rows.length === 0 && props.none && <p className="text-lg">{props.none}</p>}
      <ul className={props.list}>
        {rows.map((r) => (
          <li key={r.id}>
            <button
              type="button"
              onClick={() => setOpen(r)}
              className={`hover:bg-tag ${props.row}`}
            >
              {props.children(r)}
            </button>
          </li>
        ))}
      </ul>
      {open && (
        <EditSheet
          title={row ? row.name : props.one}
          fields={props.fields}
          first={row ? props.values(row) : fresh}
          change={(values) => ({ act: "put", what, id: row?.id ?? null, sent: sent(values) })}
          drop={row ? { act: "drop", what, id: row.id } : undefined}
          onClose={close}
        />
      )}
    </Part>
  );
}
