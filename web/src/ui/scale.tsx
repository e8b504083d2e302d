type Range = { lo: number; hi: number };

/** A range on a scale, as a bar; `x` places a figure. */
export function Bar({
  range,
  x,
  y,
  height,
  least = 0,
  ...look
}: {
  range: Range;
  x: (value: number) => number;
  y: number;
  height: number;
  /** Wide enough to be seen where both ends meet. */
  least?: number;
  fill: string;
  stroke?: string;
  strokeWidth?: number;
  opacity?: number;
}) {
  const [from, to] = [x(range.lo), x(range.hi)];
  return <rect x={from} width={Math.max(least, to - from)} y={y} height={height} {...look} />;
}

/** The expected figure on a scale: a brass tick from one height to another. */
export function BrassTick({
  at,
  from,
  to,
  width = 3,
}: {
  at: number;
  from: number;
  to: number;
  width?: number;
}) {
  return <line x1={at} x2={at} y1={from} y2={to} stroke="var(--brass)" strokeWidth={width} />;
}
