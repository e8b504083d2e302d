import type { JarView } from "@/api/types";

/** The colour of a jar's lid: as it was chosen, else bright where it sealed. */
export const lidOf = (jar: JarView): string =>
  jar.lid || (jar.seal === "sealed" ? "var(--brass)" : "var(--tag)");

/** How full a jar is, as it is drawn. */
export const levelOf = (jar: JarView): number =>
  ((jar.left_ml ?? jar.fill_ml) / jar.nominal_ml) * 0.92;

/** What a label is called in a row of many: its fruit and what it is, short. */
export const shortName = (label: string): string => {
  const name = label.replace(/ juice$/, "");
  return name.charAt(0).toLowerCase() + name.slice(1);
};
