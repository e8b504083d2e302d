/** Whether texts hold every word that was typed; nothing typed matches everything. */
export function hasWords(words: string, ...texts: string[]): boolean {
  const all = texts.join(" ").toLowerCase();
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((w) => all.includes(w));
}
