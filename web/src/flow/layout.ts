/**
 * The ribbon's layout: where its pieces lie. Pure: lots and operations in, boxes and bands out.
 *
 * Lots of one name (juice-1, juice-1-late, juice-2 …) become one group with strands. What only
 * passes through, such as juice that is strained, is a slim piece when there is no room for words.
 * `along` runs with the flow and `across` is mass; the picture decides which of them is x.
 */

export type LotIn = { key: string; kind: string; mass: number };
export type OperationIn = { takes: string[]; gives: string[] };

export type Strand = { key: string; from: number; to: number };

export type Group = {
  key: string;
  kind: string;
  column: number;
  lane: number;
  slim: boolean;
  mass: number;
  along: number;
  length: number;
  across: number;
  thickness: number;
  strands: Strand[];
};

export type Band = {
  key: string;
  source: Group;
  target: Group;
  sourceAcross: number;
  targetAcross: number;
  thickness: number;
};

export type Layout = { groups: Group[]; bands: Band[]; across: number; along: number };

/** along: the room, or 0 for as much as it takes. */
export type Room = {
  along: number;
  across: number;
  box: number;
  slim: number;
  step: number;
  gap: number;
  margin: number;
};

const FROM_THE_SIDE = new Set(["steam", "water", "added"]);
const LEFT_OVER = new Set(["pomace", "loss"]);
const THINNEST = 1.5;
const [SIDE, MAIN, BRANCH, REST] = [0, 1, 2, 3];

export const groupOf = (key: string): string => key.split("-")[0] ?? key;

/** Lays a flow out in a room; sizes are the room's own unit. */
export function layOut(lots: LotIn[], operations: OperationIn[], room: Room): Layout {
  const links = linksBetween(lots, operations);
  const groups = lanes(columns(gather(lots), links), links);
  slimDown(groups, links, room);
  const { scale, along } = place(groups, links, room);
  return { groups, bands: bands(groups, links, scale), across: room.across, along };
}

function gather(lots: LotIn[]): Group[] {
  const groups = new Map<string, Group>();
  for (const lot of lots) {
    const key = groupOf(lot.key);
    const group = groups.get(key) ?? {
      key,
      kind: lot.kind,
      column: 0,
      lane: MAIN,
      slim: false,
      mass: 0,
      along: 0,
      length: 0,
      across: 0,
      thickness: 0,
      strands: [],
    };
    group.strands.push({ key: lot.key, from: group.mass, to: group.mass + lot.mass });
    group.mass += lot.mass;
    groups.set(key, group);
  }
  return [...groups.values()];
}

/** Mass that goes from group to group: what an operation gives, in proportion to what it takes. */
function linksBetween(lots: LotIn[], operations: OperationIn[]): Map<string, number> {
  const mass = new Map(lots.map((l) => [l.key, l.mass]));
  const makers = operations.filter((o) => o.gives.length > 0);
  const uses = new Map<string, number>();
  for (const o of makers) for (const k of o.takes) uses.set(k, (uses.get(k) ?? 0) + 1);
  const links = new Map<string, number>();
  for (const o of makers) {
    const taken = o.takes.map((k) => (mass.get(k) ?? 0) / (uses.get(k) ?? 1));
    const total = taken.reduce((a, b) => a + b, 0);
    o.takes.forEach((from, i) => {
      for (const to of o.gives) {
        const key = `${groupOf(from)}>${groupOf(to)}`;
        const share = total > 0 ? (taken[i] ?? 0) / total : 0;
        links.set(key, (links.get(key) ?? 0) + share * (mass.get(to) ?? 0));
      }
    });
  }
  return links;
}

function ends(link: string): [string, string] {
  const [from = "", to = ""] = link.split(">");
  return [from, to];
}

function neighbours(groups: Group[], links: Map<string, number>) {
  const byKey = new Map(groups.map((g) => [g.key, g]));
  const pairs = [...links.keys()].map(ends);
  return {
    into: (g: Group) => pairs.flatMap(([a, b]) => (b === g.key ? (byKey.get(a) ?? []) : [])),
    out: (g: Group) => pairs.flatMap(([a, b]) => (a === g.key ? (byKey.get(b) ?? []) : [])),
  };
}

/** Columns by the longest way from a source; what joins later stands just before its use. */
function columns(groups: Group[], links: Map<string, number>): Group[] {
  const byKey = new Map(groups.map((g) => [g.key, g]));
  for (let pass = 0; pass < groups.length; pass++) {
    for (const link of links.keys()) {
      const [from, to] = ends(link).map((k) => byKey.get(k));
      if (from && to && from !== to) to.column = Math.max(to.column, from.column + 1);
    }
  }
  const { into, out } = neighbours(groups, links);
  const last = Math.max(...groups.map((g) => g.column));
  for (const g of groups) {
    const uses = out(g).map((t) => t.column);
    const late = into(g).length === 0 && uses.length > 0;
    if (FROM_THE_SIDE.has(g.kind) || late) g.column = Math.max(0, Math.min(...uses, last) - 1);
    if (g.kind === "jars") g.column = last;
  }
  return groups;
}

/** The jars that each group leads to, by their names. */
function leadsTo(groups: Group[], links: Map<string, number>): Map<string, Set<string>> {
  const { out } = neighbours(groups, links);
  const found = new Map<string, Set<string>>();
  for (const g of [...groups].sort((a, b) => b.column - a.column)) {
    const own = g.kind === "jars" ? [g.key] : [];
    found.set(g.key, new Set([...own, ...out(g).flatMap((t) => [...(found.get(t.key) ?? [])])]));
  }
  return found;
}

/** The line to the jars runs on top, a second run under it, what is left over lowest. */
function lanes(groups: Group[], links: Map<string, number>): Group[] {
  const { into } = neighbours(groups, links);
  const reach = leadsTo(groups, links);
  const first = groups.find((g) => g.kind === "jars")?.key ?? "";
  const apart = (g: Group) => {
    const to = reach.get(g.key);
    return to !== undefined && to.size > 0 && !to.has(first);
  };
  for (const g of [...groups].sort((a, b) => a.column - b.column)) {
    const from = into(g).filter((s) => s.lane !== SIDE);
    const branch = from.length > 0 && from.every((s) => s.lane >= BRANCH);
    if (FROM_THE_SIDE.has(g.kind)) g.lane = SIDE;
    else if (LEFT_OVER.has(g.kind)) g.lane = REST;
    else g.lane = branch || apart(g) || joinsLate(g, into(g)) ? BRANCH : MAIN;
  }
  return groups;
}

/** Whether it is something that is worked on and joins after the beginning. */
const joinsLate = (g: Group, from: Group[]): boolean => g.column > 0 && from.length === 0;

/** Where boxes would not fit side by side, what only passes through gives up its width. */
function slimDown(groups: Group[], links: Map<string, number>, room: Room): void {
  const { into, out } = neighbours(groups, links);
  const last = Math.max(...groups.map((g) => g.column));
  const passes = (g: Group) =>
    g.lane !== SIDE && into(g).some((s) => s.kind === g.kind || g.kind === "mash");
  const thin = (g: Group) => g.kind === "loss" || (g.lane === REST && out(g).length === 0);
  const needed = (slim: (g: Group) => boolean) => {
    let sum = last * room.step;
    for (let c = 0; c <= last; c++)
      sum += groups.some((g) => g.column === c && g.lane !== SIDE && !slim(g) && !thin(g))
        ? room.box
        : room.slim;
    return sum;
  };
  const most = room.along || Number.POSITIVE_INFINITY;
  for (const slim of [() => false, (g: Group) => passes(g) && g.key !== "hot", passes]) {
    for (const g of groups) g.slim = slim(g) || (g.kind === "loss" && g.lane === REST);
    if (needed(slim) <= most) return;
  }
}

/** Gives every group its place; returns how thick a gram is and how long it all became. */
function place(
  groups: Group[],
  links: Map<string, number>,
  room: Room,
): { scale: number; along: number } {
  const last = Math.max(1, ...groups.map((g) => g.column));
  const of = (c: number) => groups.filter((g) => g.column === c);
  const lengths = Array.from({ length: last + 1 }, (_, c) =>
    of(c).some((g) => !g.slim && g.lane !== SIDE && g.lane !== REST) ? room.box : room.slim,
  );
  const boxes = lengths.reduce((a, b) => a + b, 0);
  const along = room.along || boxes + last * room.step;
  const gap = (along - boxes) / last;
  const scale = Math.min(
    ...lengths.map((_, c) => {
      const there = of(c).filter((g) => g.lane !== SIDE);
      const mass = there.reduce((sum, g) => sum + g.mass, 0) + passing(groups, links, c);
      return (room.across - room.margin - room.gap * there.length) / Math.max(1, mass);
    }),
  );
  let at = 0;
  lengths.forEach((length, c) => {
    stack(of(c), passing(groups, links, c) * scale, at, length, gap, scale, room);
    at += length + gap;
  });
  return { scale, along };
}

/** Mass that goes past a column on its way along the main line. */
function passing(groups: Group[], links: Map<string, number>, column: number): number {
  const byKey = new Map(groups.map((g) => [g.key, g]));
  let sum = 0;
  for (const [link, mass] of links) {
    const [from, to] = ends(link).map((k) => byKey.get(k));
    if (from?.lane === MAIN && to && from.column < column && column < to.column) sum += mass;
  }
  return sum;
}

/** One column: the main line first, then branches and what is left over; sides above. */
function stack(
  there: Group[],
  past: number,
  at: number,
  length: number,
  gap: number,
  scale: number,
  room: Room,
): void {
  let across = room.margin + (past > 0 ? past + room.gap * 0.6 : 0);
  const inLine = there.filter((g) => g.lane !== SIDE).sort((a, b) => a.lane - b.lane);
  for (const g of inLine) {
    g.along = at;
    g.length = g.slim ? Math.min(length, room.slim) : Math.max(length, room.slim);
    g.thickness = Math.max(THINNEST, g.mass * scale);
    g.across = across;
    across += g.thickness + room.gap;
    for (const s of g.strands) [s.from, s.to] = [s.from * scale, s.to * scale];
  }
  const sides = there.filter((g) => g.lane === SIDE);
  const free = Math.max(length, room.slim) + gap * 0.8;
  sides.forEach((g, i) => {
    g.thickness = Math.max(THINNEST, Math.min(g.mass * scale, room.margin * 0.5));
    g.along = at + (i * free) / sides.length;
    g.length = Math.min(room.box, free / sides.length - 4);
    g.across = Math.max(0, room.margin - room.gap * 0.5 - g.thickness);
    for (const s of g.strands) [s.from, s.to] = [s.from * scale, s.to * scale];
  });
}

function bands(groups: Group[], links: Map<string, number>, scale: number): Band[] {
  const byKey = new Map(groups.map((g) => [g.key, g]));
  const found = [...links].flatMap(([link, mass]) => {
    const [from, to] = ends(link);
    const [source, target] = [byKey.get(from), byKey.get(to)];
    const thickness = source ? Math.min(mass * scale, source.thickness) : 0;
    return source && target ? [{ key: link, source, target, thickness }] : [];
  });
  const out = new Map<string, number>();
  const into = new Map<string, number>();
  const ordered = found.sort(
    (a, b) => a.source.lane - b.source.lane || a.target.lane - b.target.lane,
  );
  return ordered.map((band) => {
    const sourceAcross = band.source.across + (out.get(band.source.key) ?? 0);
    const targetAcross = band.target.across + (into.get(band.target.key) ?? 0);
    out.set(band.source.key, (out.get(band.source.key) ?? 0) + band.thickness);
    into.set(band.target.key, (into.get(band.target.key) ?? 0) + band.thickness);
    return { ...band, sourceAcross, targetAcross };
  });
}
