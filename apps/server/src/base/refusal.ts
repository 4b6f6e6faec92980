import { HttpException } from '@nestjs/common';
import { ERRORS, type ErrorCode } from '@corvun/contract';

/** A refusal with a code, which says the status, and a sentence a user can read. */
export class Refusal extends HttpException {
  constructor(
    readonly code: ErrorCode,
    message: string,
    readonly more: { fields?: Record<string, string>; present?: unknown } = {},
  ) {
    super(message, ERRORS[code][0]);
  }
}
