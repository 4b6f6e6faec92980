export const listOf = (value: unknown): unknown[] =>
  Array.isArray(value) ? value : value === undefined || value === null ? [] : [value];

/** The text of a property, as the client package gives it: bare, as a number, or as CDATA. */
export function textOf(value: unknown): string {
  if (typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean') return String(value);
  const inside = (value as { _cdata?: unknown } | null | undefined)?._cdata;
  return inside === undefined ? '' : listOf(inside).map(String).join('');
}

export const hrefOf = (value: unknown): string => textOf((value as { href?: unknown } | null | undefined)?.href);

export const utc = (at: number): string => `${new Date(at).toISOString().slice(0, 19).replace(/[-:]/g, '')}Z`;

/** Whether a server may send on to another address together with the password: only where nobody can listen on the way. */
export function mayGetPassword(said: string, found: string): boolean {
  const [from, to] = [new URL(said), new URL(found)];
  return to.protocol === 'https:' || (from.protocol === 'http:' && from.host === to.host);
}

export function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}
