/** What stands under every plan, recipe and card. */
export const DEFER =
  "Follow the tested times of your own food authority; when in doubt, chill, freeze or throw away.";

/** A title inside a sentence: its first letter small, its units as they are. */
export const inSentence = (title: string): string => title.charAt(0).toLowerCase() + title.slice(1);

/** Whether texts hold every word that was typed; nothing typed matches everything. */
export function hasWords(words: string, ...texts: string[]): boolean {
  const all = texts.join(" ").toLowerCase();
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((w) => all.includes(w));
}
