import { useState } from "react";
import { SaidLine } from "@/lines/said-line";
import { useLines } from "@/lines/use-lines";

/** One field for anything that goes in, kept with Enter. */
export function LineField({ onAdd }: { onAdd: (text: string) => void }) {
  const [text, setText] = useState("");
  const read = useLines(text ? [text] : [])(text);
  const keep = (line: string) => {
    onAdd(line);
    setText("");
  };
  const ready = read !== undefined && read.wrong === null;
  return (
    <form
      className="mt-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (ready) keep(text);
      }}
    >
      <SaidLine
        label="Add a line"
        value={text}
        onChange={setText}
        onChoose={keep}
        read={read}
        placeholder="2 cups honey, a pinch of salt …"
      >
        {text && (
          <button
            type="submit"
            disabled={!ready}
            className="border-line border-l-2 bg-elder px-3 font-bold font-display text-on-dark disabled:bg-tag disabled:text-slate"
          >
            Add
          </button>
        )}
      </SaidLine>
    </form>
  );
}
