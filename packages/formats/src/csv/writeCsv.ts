/** A table (RFC 4180) with a byte order mark, which spreadsheets need to read it as UTF-8. */
export function writeCsv(columns: readonly string[], rows: readonly (readonly (string | number | null)[])[]): string {
  return `\uFEFF${[columns, ...rows].map((row) => row.map(cellOf).join(',')).join('\r\n')}\r\n`;
}

/** A spreadsheet would carry out a cell that begins like a formula; an apostrophe before it makes it text. */
function cellOf(value: string | number | null): string {
  if (value === null) return '';
  const text = typeof value === 'number' ? String(value) : /^[=+\-@\t\r]/.test(value) ? `'${value}` : value;
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}
