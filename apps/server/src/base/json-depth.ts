import { HttpException } from '@nestjs/common';

/** Deepest nesting of a request body. */
const MOST = 60;

/** Refuses a body nested so deep that walking through it would end the server's stack. Looks at each byte once. */
export function refuseDeepJson(_request: unknown, _response: unknown, body: Buffer): void {
  let depth = 0;
  let inString = false;
  for (let at = 0; at < body.length; at += 1) {
    const byte = body[at];
    if (inString) {
      if (byte === 0x5c) at += 1;
      else if (byte === 0x22) inString = false;
    } else if (byte === 0x22) inString = true;
    else if (byte === 0x5b || byte === 0x7b) depth += 1;
    else if (byte === 0x5d || byte === 0x7d) depth -= 1;
    if (depth > MOST) throw new HttpException(`The request is nested more than ${MOST} levels deep.`, 400);
  }
}
