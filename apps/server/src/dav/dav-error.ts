import { documentOf } from './xml';

/** A refusal of WebDAV: its status, and the precondition that was not met (RFC 4918, 16). */
export class DavError extends Error {
  constructor(
    readonly status: number,
    readonly condition = '',
    message = '',
  ) {
    super(message);
  }

  get body(): string {
    return this.condition ? documentOf('error', this.condition) : '';
  }
}
