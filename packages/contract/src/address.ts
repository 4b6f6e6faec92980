/**
 * The address of a route: names in its path are filled in, everything else goes behind the question mark.
 * @param path as in the table of routes, `/tasks/:id`
 */
export function addressOf(path: string, place: Readonly<Record<string, string | undefined>> = {}): string {
  const query = new URLSearchParams();
  let address = path;
  for (const [name, value] of Object.entries(place)) {
    if (value === undefined) continue;
    if (address.includes(`:${name}`)) address = address.replace(`:${name}`, encodeURIComponent(value));
    else query.set(name, value);
  }
  const asked = query.toString();
  return asked ? `${address}?${asked}` : address;
}
