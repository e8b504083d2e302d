import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useId, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { api, body } from "@/api/client";
import type { MethodFile } from "@/api/types";
import { FIRST, toAddress } from "@/plan/asked";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { Said } from "@/ui/notice";

/** Takes in a recipe that is pasted, or a method that somebody has sent as a file. */
export function TakeIn() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button size="small" onClick={() => setOpen(true)}>
        Take one in
      </Button>
      <Dialog
        open={open}
        onClose={() => setOpen(false)}
        title="A recipe or a method from elsewhere"
        lead="Only what goes in is taken from a recipe. How it is done, how long and whether it may stand on a shelf is judged here."
      >
        <Paste />
      </Dialog>
    </>
  );
}

function Paste() {
  const id = useId();
  const [text, setText] = useState("");
  const box = useRef<HTMLInputElement>(null);
  const take = useTakeIn();
  return (
    <form
      className="grid gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        take.mutate(text);
      }}
    >
      <label htmlFor={id} className="text-base text-slate">
        Its lines, or a whole page that holds it
      </label>
      <textarea
        id={id}
        rows={8}
        value={text}
        onChange={(e) => setText(e.target.value)}
        className="w-full border-2 border-line bg-paper p-3 text-lg"
      />
      <Said error={take.error} />
      <div className="flex flex-wrap gap-3">
        <Button kind="go" type="submit" disabled={!text.trim() || take.isPending}>
          Read it
        </Button>
        <Button type="button" onClick={() => box.current?.click()}>
          From a file
        </Button>
      </div>
      <input
        ref={box}
        type="file"
        accept=".json,.txt,.html,application/json,text/plain,text/html"
        aria-label="A file with a recipe or a method"
        hidden
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) void file.text().then((held) => take.mutate(held));
          e.target.value = "";
        }}
      />
    </form>
  );
}

/** A method's own file is kept as it is; of anything else the lines go to the Plan desk. */
function useTakeIn() {
  const client = useQueryClient();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: async (text: string) => {
      const file = methodIn(text);
      if (file) {
        const { method } = await body(api.POST("/api/methods/file", { body: file }));
        await client.invalidateQueries({ queryKey: ["methods"] });
        return `/methods/${method.key}`;
      }
      const { lines, name, source } = await body(api.POST("/api/recipes", { body: { text } }));
      const asked = {
        ...FIRST,
        lines: lines.map((line, n) => ({ id: n + 1, text: line })),
        from: [name, source].filter(Boolean).join(", "),
      };
      return `/plan?${new URLSearchParams(toAddress(asked))}`;
    },
    onSuccess: (to) => navigate(to),
  });
}

/** The method that a text is the file of. */
function methodIn(text: string): MethodFile | undefined {
  try {
    const held = JSON.parse(text);
    return held.format === "elderberry method" ? held : undefined;
  } catch {
    return undefined;
  }
}
