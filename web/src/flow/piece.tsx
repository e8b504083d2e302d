import type { Group } from "@/flow/layout";
import { HOLDS_WORDS, oneLine, rest } from "@/flow/side-labels";
import { BESIDE, type Label } from "@/flow/words";
import { mix, wordsOn } from "@/lib/colour";

type PieceProps = {
  group: Group;
  fill: string;
  words: string;
  measured: Set<string> | undefined;
  upright: boolean;
  shown: boolean;
  onShow: () => void;
  onPress?: ((name: string) => void) | undefined;
};

const PALE = 0.42;

/** One lot on the ribbon: its figures on hover and on focus, its strands where loads meet. */
export function Piece(props: PieceProps) {
  const { group, fill, measured, upright, onShow, onPress } = props;
  const box = (from: number, to: number) =>
    upright
      ? { x: group.across + from, y: group.along, width: to - from, height: group.length }
      : { x: group.along, y: group.across + from, width: group.length, height: to - from };
  const press = onPress ? () => onPress(group.key) : undefined;
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: a button where there is something to press
    <g
      tabIndex={0}
      role={press ? "button" : "img"}
      aria-label={props.words}
      onFocus={onShow}
      onPointerEnter={onShow}
      onClick={press}
      onKeyDown={(e) => {
        if (press && (e.key === "Enter" || e.key === " ")) {
          e.preventDefault();
          press();
        }
      }}
      className={`outline-none ${press ? "cursor-pointer" : ""}`}
    >
      <rect
        {...box(0, group.thickness)}
        fill={fill}
        {...(group.kind === "added" ? { stroke: "var(--line)" } : {})}
      />
      {group.kind === "juice" &&
        group.strands.map((s) => (
          <rect
            key={s.key}
            {...box(s.from, s.to)}
            fill={measured && !measured.has(s.key) ? mix(fill, "#fffdf7", PALE) : fill}
          />
        ))}
      {!BESIDE.has(group.kind) &&
        group.strands
          .slice(1)
          .map((s) => <Notches key={s.key} group={group} at={s.from} upright={upright} />)}
      {props.shown && (
        <rect {...box(-3, group.thickness + 3)} fill="none" stroke="var(--brass)" strokeWidth="3" />
      )}
      {group.slim && <rect {...box(-8, Math.max(group.thickness + 8, 24))} fill="transparent" />}
    </g>
  );
}

/** Where one load ends and the next begins: a notch at both edges, clear of the words. */
function Notches({ group, at, upright }: { group: Group; at: number; upright: boolean }) {
  const [near, far, across] = [group.along, group.along + group.length, group.across + at];
  const ends = [
    [near, near + 8],
    [far - 8, far],
  ] as const;
  return ends.map(([from, to]) => (
    <path
      key={from}
      d={upright ? `M${across} ${from}V${to}` : `M${from} ${across}H${to}`}
      stroke="var(--linen)"
      strokeWidth="1.5"
    />
  ));
}

type WordsProps = {
  group: Group;
  label: Label;
  fill: string;
  measured: Set<string> | undefined;
  upright: boolean;
  /** Where the picture ends to the right: no word runs out of it. */
  most: number;
  /** How high its words stand, where it joins from the side. */
  above: number;
};

/** Room on a piece for its words: two lines, one line, or none. */
function linesInside(group: Group, upright: boolean): 0 | 1 | 2 {
  if (BESIDE.has(group.kind)) return 0;
  if (upright) return group.thickness >= HOLDS_WORDS ? 2 : 0;
  return group.thickness >= 46 ? 2 : group.thickness >= 23 ? 1 : 0;
}

/** Room across a lying piece for the large word and two lines under it. */
const HOLDS_THREE = 62;
const LINE = 17;
const OVER_ALL = {
  strokeWidth: 4,
  paintOrder: "stroke",
  className: "pointer-events-none font-text",
};

/** What is said on a lot, or beside it; drawn over all pieces, so that none covers it. */
export function Words({ group, label, fill, measured, upright, most, above }: WordsProps) {
  const first = group.strands[0]?.key ?? "";
  const pale = Boolean(group.kind === "juice" && measured && !measured.has(first));
  const beside = BESIDE.has(group.kind);
  const lines = linesInside(group, upright);
  const cloth = pale ? mix(fill, "#fffdf7", PALE) : fill;
  const left = group.kind === "pomace" || group.kind === "loss";
  const at = wordsAt(group, lines, upright, above);
  const cut = lines === 1 && oneLine(label) > group.length - 12;
  const said = cut ? rest(label).slice(0, left ? 0 : 1) : rest(label);
  if (upright && lines === 0 && !beside && group.lane !== 1) return null;
  const inARow = lines === 1 || beside || (lines === 0 && !upright);
  const long = inARow ? oneLine(label, said) : 0;
  const out = at.x + long > most && !beside;
  const fit = upright || group.thickness >= HOLDS_THREE ? said.length : 1;
  const inside = inARow ? [said.join(", ")].filter(Boolean) : said.slice(0, fit);
  const outside = inARow ? [] : said.slice(fit);
  return (
    <>
      <text
        x={at.x}
        y={at.y - (LINE / 2) * Math.max(0, inside.length - 1)}
        {...(out ? { x: most - 2, textAnchor: "end" } : {})}
        fill={lines ? (left ? "#261f2b" : wordsOn(cloth)) : "var(--ink)"}
        stroke={lines ? cloth : "var(--linen)"}
        {...OVER_ALL}
      >
        <tspan className="font-bold" fontSize={beside || inARow ? 15 : 17}>
          {label.big}
        </tspan>
        {inside.map((line) => (
          <tspan key={line} {...(inARow ? { dx: 5 } : { x: at.x, dy: LINE })} fontSize="14.5">
            {line}
          </tspan>
        ))}
      </text>
      {outside.map((line) => (
        <text
          key={line}
          x={at.x}
          y={group.across + group.thickness + LINE}
          fontSize="14.5"
          fill="var(--ink)"
          stroke="var(--linen)"
          {...OVER_ALL}
        >
          {line}
        </text>
      ))}
    </>
  );
}

function wordsAt(
  group: Group,
  lines: number,
  upright: boolean,
  above: number,
): { x: number; y: number } {
  const [along, across] = [group.along, group.across];
  const beside = BESIDE.has(group.kind);
  if (upright) {
    if (lines) return { x: across + 8, y: along + group.length / 2 - 2 };
    if (beside) return { x: 1, y: above };
    return { x: across + group.thickness + 8, y: along + group.length / 2 };
  }
  if (lines)
    return {
      x: along + (group.strands.length > 1 ? 13 : 8),
      y: across + group.thickness / 2 + (lines === 1 ? 5 : -2),
    };
  if (beside) return { x: along, y: above };
  return { x: along, y: across + group.thickness + LINE };
}
