import { StreamableFile } from '@nestjs/common';
import type { Response } from 'express';

/** Text as a file that is saved under its name. @param name with its ending */
export function textFile(response: Response, name: string, type: string, text: string): StreamableFile {
  response.setHeader('Content-Security-Policy', "default-src 'none'; sandbox");
  return new StreamableFile(Buffer.from(text), {
    type: `${type}; charset=utf-8`,
    disposition: `attachment; filename="${name}"`,
  });
}
