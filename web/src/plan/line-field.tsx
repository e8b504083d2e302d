import { useId, useState } from "react";
import type { LineView } from "@/api/types";
import { Misread } from "@/plan/misread";
import { understood } from "@/plan/understood";
import { useLines } from "@/plan/use-lines";

type Props = {
  of: (text: string) => LineView | undefined;
  onAdd: (text: string) => void;
};

/** One field for anything that goes in: read as it is typed, kept with Enter. */
export function LineField({ onAdd }: Props) {
  const id = useId();
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
      <label htmlFor={id} className="sr-only">
        Add a line
      </label>
      <span className="flex border-2 border-line bg-paper focus-within:outline-3 focus-within:outline-brass focus-within:outline-offset-2">
        <input
          id={id}
          value={text}
          maxLength={200}
          autoComplete="off"
          enterKeyHint="done"
          placeholder="2 cups honey, a pinch of salt …"
          aria-describedby={`${id}-read`}
          onChange={(e) => setText(e.target.value)}
          className="min-h-12 w-full min-w-0 bg-transparent px-3 text-lg placeholder:text-slate focus:outline-none"
        />
        {text && (
          <button
            type="submit"
            disabled={!ready}
            className="border-line border-l-2 bg-elder px-3 font-bold font-display text-on-dark disabled:bg-tag disabled:text-slate"
          >
            Add
          </button>
        )}
      </span>
      <div id={`${id}-read`} aria-live="polite" className="text-base">
        {read?.wrong ? (
          <Misread text={text} wrong={read.wrong} onChoose={keep} />
        ) : (
          read && <span className="text-leaf">{understood(read)}</span>
        )}
      </div>
    </form>
  );
}
