/** Something with a place among its siblings; what stands at the same place goes by id. */
export interface Ordered {
  readonly id: string;
  readonly position: number;
}

/** Room left between two that are put apart, so that others fit between them later. */
const ROOM = 1024;

/**
 * The positions to write so that `moving` stand together, in the order given, right after one of their siblings. Others
 * keep theirs unless there is no room between them.
 * @param siblings all of them in their order; `moving` may be among them
 * @param after the one they come after; null: before all others. One that is not there: after all others
 */
export function placedAfter(siblings: readonly Ordered[], moving: readonly string[], after: string | null): Map<string, number> {
  const going = new Set(moving);
  const rest = siblings.filter(({ id }) => !going.has(id));
  const found = rest.findIndex(({ id }) => id === after);
  const at = after === null ? 0 : found < 0 ? rest.length : found + 1;
  const before = rest[at - 1]?.position;
  const next = rest[at]?.position;
  const placed = new Map<string, number>();
  if (before === undefined || next === undefined || next - before <= moving.length) {
    const from = before ?? (next === undefined ? 0 : next - ROOM * (moving.length + 1));
    const apart = before === undefined || next === undefined ? ROOM : 1;
    moving.forEach((id, index) => placed.set(id, from + apart * (index + 1)));
    if (next === undefined) return placed;
    let last = placed.get(moving.at(-1) ?? '') ?? from;
    for (const one of rest.slice(at)) {
      if (one.position > last) break;
      last += ROOM;
      placed.set(one.id, last);
    }
    return placed;
  }
  moving.forEach((id, index) => placed.set(id, before + Math.floor(((next - before) * (index + 1)) / (moving.length + 1))));
  return placed;
}
