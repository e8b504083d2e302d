import { useMutation } from "@tanstack/react-query";
import { Refused } from "@/api/client";
import { Button } from "@/ui/button";
import { Said } from "@/ui/notice";

type Props = { path: string; body: unknown; name: string };

/** Something as a PDF file, of what is asked for in a body. */
export function PdfOf({ path, body, name }: Props) {
  const make = useMutation({ mutationFn: () => take(path, body, name), retry: false });
  return (
    <>
      <Button disabled={make.isPending} onClick={() => make.mutate()}>
        As a PDF
      </Button>
      <Said error={make.error} />
    </>
  );
}

async function take(path: string, body: unknown, name: string): Promise<void> {
  const answer = await fetch(path, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(body),
  });
  if (!answer.ok) throw new Refused(await answer.json());
  const link = document.createElement("a");
  link.href = URL.createObjectURL(await answer.blob());
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}
