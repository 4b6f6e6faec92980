import { StreamableFile } from '@nestjs/common';
import type { Response } from 'express';
import type { FileStore } from './file-store';

/** Shown in the browser itself; everything else is saved. An HTML or SVG file would run as part of this site. */
const SHOWN = /^(?:image\/(?:png|jpeg|gif|webp)|text\/plain)$/;

/** A kept file as an answer: shown where that is safe, else saved under its name. @throws Refusal when its bytes are gone */
export async function fileAnswer(
  files: FileStore,
  { name, type, size, hash }: { name: string; type: string; size: number; hash: string },
  response: Response,
): Promise<StreamableFile> {
  const shown = SHOWN.test(type);
  response.setHeader('Content-Security-Policy', "default-src 'none'; style-src 'unsafe-inline'; sandbox");
  response.setHeader('Cache-Control', 'private, max-age=31536000, immutable');
  return new StreamableFile(await files.openKept(hash), {
    type: shown ? type : 'application/octet-stream',
    length: size,
    disposition: `${shown ? 'inline' : 'attachment'}; filename*=UTF-8''${encodeURIComponent(name).replace(/['()*]/g, (letter) => `%${letter.charCodeAt(0).toString(16)}`)}`,
  });
}
