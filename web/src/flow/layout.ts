/**
 * Where the ribbon's pieces lie. Pure: lots and operations in, boxes and bands out.
 *
 * Lots of one kind that stand side by side (juice-1, juice-2 …) become one group with strands.
 * `along` runs with the flow and `across` is mass; the picture decides which of them is x.
 */

export type LotIn = { key: string; kind: string; mass: number };
export type OperationIn = { takes: string[]; gives: string[] };

export type Strand = { key: string; from: number; to: number };

export type Group = {
  key: string;
  kind: string;
  column: number;
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

export type Room = { along: number; across: number; box: number; gap: number; margin: number };

const LANE: Record<string, number> = { steam: 0, added: 0, fruit: 1, juice: 1, jars: 1, pomace: 2 };
const THINNEST = 1.5;

export const groupOf = (key: string): string => key.replace(/-\d+$/, "");

/** Lays a flow out in a room; sizes are the room's own unit. */
export function layOut(lots: LotIn[], operations: OperationIn[], room: Room): Layout {
  const links = linksBetween(lots, operations);
  const groups = columns(gather(lots), links);
  const scale = place(groups, room);
  return { groups, bands: bands(groups, links, scale), across: room.across, along: room.along };
}

function gather(lots: LotIn[]): Group[] {
  const groups = new Map<string, Group>();
  for (const lot of lots) {
    const key = groupOf(lot.key);
    const group = groups.get(key) ?? {
      key,
      kind: lot.kind,
      column: 0,
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

/** Columns by the longest way from a source; what joins later stands just before its use. */
function columns(groups: Group[], links: Map<string, number>): Group[] {
  const byKey = new Map(groups.map((g) => [g.key, g]));
  for (let pass = 0; pass < groups.length; pass++) {
    for (const link of links.keys()) {
      const [from, to] = ends(link).map((k) => byKey.get(k));
      if (from && to) to.column = Math.max(to.column, from.column + 1);
    }
  }
  const joins = (g: Group) =>
    [...links.keys()]
      .map(ends)
      .flatMap(([from, to]) => (from === g.key ? (byKey.get(to) ?? []) : []));
  for (const g of groups) {
    if (lane(g) === 0) g.column = Math.max(0, Math.min(...joins(g).map((t) => t.column)) - 1);
  }
  return groups;
}

/** Gives every group its place; returns how thick a gram is. */
function place(groups: Group[], room: Room): number {
  const last = Math.max(1, ...groups.map((g) => g.column));
  const step = (room.along - room.box) / last;
  const heaviest = Math.max(
    1,
    ...Array.from({ length: last + 1 }, (_, c) =>
      groups.filter((g) => g.column === c && lane(g) > 0).reduce((sum, g) => sum + g.mass, 0),
    ),
  );
  const scale = (room.across - room.margin - room.gap) / heaviest;
  for (const g of groups) {
    g.along = g.column * step;
    g.length = room.box;
    g.thickness = Math.max(THINNEST, g.mass * scale);
    for (const s of g.strands) [s.from, s.to] = [s.from * scale, s.to * scale];
  }
  for (let c = 0; c <= last; c++) {
    let across = room.margin;
    for (const g of groups
      .filter((x) => x.column === c && lane(x) > 0)
      .sort((a, b) => lane(a) - lane(b))) {
      g.across = across;
      across += g.thickness + room.gap;
    }
    for (const g of groups.filter((x) => x.column === c && lane(x) === 0)) {
      g.across = Math.max(0, room.margin - room.gap * 0.75 - g.thickness);
    }
  }
  return scale;
}

const lane = (g: Group): number => LANE[g.kind] ?? 1;

function bands(groups: Group[], links: Map<string, number>, scale: number): Band[] {
  const byKey = new Map(groups.map((g) => [g.key, g]));
  const found = [...links].flatMap(([link, mass]) => {
    const [from, to] = ends(link);
    const [source, target] = [byKey.get(from), byKey.get(to)];
    return source && target ? [{ key: link, source, target, thickness: mass * scale }] : [];
  });
  const out = new Map<string, number>();
  const into = new Map<string, number>();
  const ordered = found.sort(
    (a, b) => lane(a.source) - lane(b.source) || lane(a.target) - lane(b.target),
  );
  return ordered.map((band) => {
    const sourceAcross = band.source.across + (out.get(band.source.key) ?? 0);
    const targetAcross = band.target.across + (into.get(band.target.key) ?? 0);
    out.set(band.source.key, (out.get(band.source.key) ?? 0) + band.thickness);
    into.set(band.target.key, (into.get(band.target.key) ?? 0) + band.thickness);
    return { ...band, sourceAcross, targetAcross };
  });
}
