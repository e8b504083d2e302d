import type { JarView } from "@/api/types";

/** Like jars beside each other collapse to a stack: same content, kind, state and day. */
export type Stack = { key: string; jars: JarView[] };

export function stacks(jars: JarView[]): Stack[] {
  const found = new Map<string, JarView[]>();
  for (const jar of jars) {
    const alike = [jar.batch_id, jar.label, jar.kind, jar.lid, jar.part_filled, jar.seal];
    const key = [...alike, jar.best_by?.typ].join("/");
    found.set(key, [...(found.get(key) ?? []), jar]);
  }
  return [...found].map(([key, list]) => ({ key, jars: list }));
}

/** The colour of a jar's lid: as it was chosen, else bright where it sealed. */
export const lidOf = (jar: JarView): string =>
  jar.lid || (jar.seal === "sealed" ? "var(--brass)" : "var(--tag)");
