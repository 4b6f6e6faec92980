import type { AddressObject, ParsedMail } from 'mailparser';

export interface MailAddress {
  name: string;
  address: string;
}

export function addressesOf(field: AddressObject | AddressObject[] | undefined): MailAddress[] {
  const groups = field === undefined ? [] : Array.isArray(field) ? field : [field];
  return groups
    .flatMap((group) => group.value)
    .flatMap((entry) => entry.group ?? [entry])
    .filter((entry) => entry.address || entry.name)
    .map((entry) => ({ name: (entry.name ?? '').slice(0, 200), address: (entry.address ?? '').toLowerCase().slice(0, 320) }));
}

export const cleanId = (id: string | undefined): string | null => id?.trim().replace(/^<|>$/g, '').slice(0, 500) || null;

export function referencesOf(parsed: ParsedMail): string[] {
  const ids = parsed.references === undefined ? [] : Array.isArray(parsed.references) ? parsed.references : [parsed.references];
  return [...new Set([...ids, parsed.inReplyTo ?? ''].map((id) => cleanId(id)).filter((id): id is string => id !== null))].slice(
    -50,
  );
}

export function isBulk(parsed: ParsedMail): boolean {
  const { headers } = parsed;
  const said = (key: string) =>
    headerLine(parsed, key)
      .replace(/^[^:]*:/, '')
      .trim()
      .toLowerCase();
  const auto = said('auto-submitted') || 'no';
  return (
    headers.has('list') ||
    headers.has('list-unsubscribe') ||
    headers.has('list-id') ||
    auto !== 'no' ||
    /\b(?:bulk|list|junk)\b/.test(said('precedence'))
  );
}

function headerLine(parsed: ParsedMail, key: string): string {
  return parsed.headerLines.find((header) => header.key === key)?.line ?? '';
}

export function offsetOf(parsed: ParsedMail): number | null {
  const zone = /([+-])(\d{2})(\d{2})\b/.exec(headerLine(parsed, 'date'));
  return zone ? (zone[1] === '-' ? -1 : 1) * (Number(zone[2]) * 60 + Number(zone[3])) : null;
}

export function unknownCharset(parsed: ParsedMail): string | null {
  const charset = /charset\s*=\s*"?([^\s";]+)/i.exec(headerLine(parsed, 'content-type'))?.[1];
  if (!charset) return null;
  try {
    new TextDecoder(charset);
    return null;
  } catch {
    return /^(?:utf-?7|cp\d+|windows-\d+|x-|mac|iso-2022)/i.test(charset) ? null : charset.slice(0, 40);
  }
}
