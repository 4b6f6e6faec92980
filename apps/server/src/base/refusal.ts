import { HttpException } from '@nestjs/common';

/** A refusal with a code and a sentence a user can read. */
export class Refusal extends HttpException {
  constructor(
    status: number,
    readonly code: string,
    message: string,
    readonly more: { fields?: Record<string, string>; present?: unknown } = {},
  ) {
    super(message, status);
  }
}
