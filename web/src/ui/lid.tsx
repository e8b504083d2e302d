/** A lid from above its rim, in its colour. */
export function Lid({ colour }: { colour: string }) {
  return (
    <svg width="26" height="14" aria-hidden="true">
      <rect
        x="1"
        y="1"
        width="24"
        height="12"
        rx="3"
        fill={colour}
        stroke="var(--line)"
        strokeWidth="1.75"
      />
    </svg>
  );
}
