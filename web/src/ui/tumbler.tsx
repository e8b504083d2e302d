/** A glass of something, so many pixels high. */
export function Tumbler({ colour, height }: { colour: string; height: number }) {
  return (
    <svg height={height} width={height * 0.7} viewBox="0 0 28 40" aria-hidden="true">
      <path d="M5 11 7.5 37H20.5L23 11Z" fill={colour} />
      <path d="M3 3 6.5 38.5H21.5L25 3" fill="none" stroke="var(--line)" strokeWidth="2" />
    </svg>
  );
}
