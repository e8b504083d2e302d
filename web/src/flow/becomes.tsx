import type { EndView } from "@/api/types";

type Props = { becomes: string[]; sets: EndView["sets"]; brief?: boolean };

/** What a syrup or jelly becomes: how it pours, whether it stays clear, what keeps it, and why. */
export function Becomes({ becomes, sets, brief }: Props) {
  if (becomes.length === 0 && !sets) return null;
  return (
    <section aria-label="What it becomes" className="mt-2 border-leaf border-l-6 pl-3">
      {sets && (
        <>
          <h3 className="text-lg">It {sets.word}</h3>
          {!brief && (
            <ul className="text-base">
              {sets.why.map((why) => (
                <li key={why}>{why}</li>
              ))}
            </ul>
          )}
        </>
      )}
      <ul className="text-base">
        {(brief ? becomes.slice(0, 1) : becomes).map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
    </section>
  );
}
