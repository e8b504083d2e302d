/** A row of two columns: what stands beside what; a blank where one has nothing to it. */
export type Pair<T> = { key: string; one: T | undefined; other: T | undefined; same: boolean };

/**
 * Two lists beside each other, in order: what has the same name stands in one row (longest common
 * subsequence), and a row is the same where both read alike.
 */
export function beside<T>(
  ones: T[],
  others: T[],
  nameOf: (item: T) => string,
  reads: (item: T) => string,
): Pair<T>[] {
  const longest = lengths(ones.map(nameOf), others.map(nameOf));
  const rows: Pair<T>[] = [];
  let [i, j] = [0, 0];
  const put = (one: T | undefined, other: T | undefined) =>
    rows.push({
      key: `${rows.length}`,
      one,
      other,
      same: one !== undefined && other !== undefined && reads(one) === reads(other),
    });
  while (i < ones.length || j < others.length) {
    const [one, other] = [ones[i], others[j]];
    if (one !== undefined && other !== undefined && nameOf(one) === nameOf(other)) {
      put(one, other);
      i++;
      j++;
    } else if (
      one !== undefined &&
      (other === undefined || (longest[i + 1]?.[j] ?? 0) >= (longest[i]?.[j + 1] ?? 0))
    ) {
      put(one, undefined);
      i++;
    } else {
      put(undefined, other);
      j++;
    }
  }
  return rows;
}

/** How many names two lists still have in common from each place on. */
function lengths(ones: string[], others: string[]): number[][] {
  const table = Array.from({ length: ones.length + 1 }, () =>
    new Array<number>(others.length + 1).fill(0),
  );
  for (let i = ones.length - 1; i >= 0; i--)
    for (let j = others.length - 1; j >= 0; j--) {
      const row = table[i] ?? [];
      row[j] =
        ones[i] === others[j]
          ? 1 + (table[i + 1]?.[j + 1] ?? 0)
          : Math.max(table[i + 1]?.[j] ?? 0, row[j + 1] ?? 0);
    }
  return table;
}
