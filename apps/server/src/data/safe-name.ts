/** A name that is safe as a file on any system. */
export const safeName = (name: string): string =>
  name
    .normalize('NFC')
    .replace(/[^\p{L}\p{N} ._-]/gu, '_')
    .replace(/^[. ]+|[. ]+$/g, '')
    .slice(0, 60) || 'file';
