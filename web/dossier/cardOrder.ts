/** A fact of a card: what it is called in the record, and on the page. */
export interface FactName {
  key: string;
  label: string;
}

/** The keys that stand first on cards of a kind. */
export const firstOf = (
  kept: Readonly<Record<string, readonly string[]>> | undefined,
  kind: string,
): string[] => [...(kept?.[kind] ?? [])];

/** The same list with one of it a place earlier or later; at the end of it nothing changes. */
export function moved(keys: readonly string[], key: string, by: 1 | -1): string[] {
  const at = keys.indexOf(key);
  const [one, other] = [keys[at], keys[at + by]];
  if (one === undefined || other === undefined) return [...keys];
  return keys.map((own) => (own === one ? other : own === other ? one : own));
}
