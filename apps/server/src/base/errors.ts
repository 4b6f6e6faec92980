import {
  ArgumentsHost,
  BadRequestException,
  Catch,
  ExceptionFilter,
  HttpException,
  Logger,
  type ValidationError,
} from '@nestjs/common';
import type { ApiError, ErrorCode } from '@corvun/contract';
import type { Response } from 'express';
import { asRefusal } from './database-problem';
import { Refusal } from './refusal';

export { Refusal };

export const notFound = (what: string) => new Refusal('not-found', `There is no ${what} here.`);
export const badField = (field: string, message: string) => new Refusal('bad-field', message, { fields: { [field]: message } });

/** The first complaint about each field, as sentences. */
export function fromValidation(
  errors: ValidationError[],
  unknown = (field: string) => `There is no field called "${field}".`,
): Refusal {
  const fields: Record<string, string> = {};
  for (const error of errors) {
    const found = Object.entries(deepest(error).constraints ?? {})[0];
    const [kind, text] = found ?? ['', 'This is not right.'];
    fields[error.property] = kind === 'whitelistValidation' ? unknown(error.property) : text;
  }
  const message = Object.values(fields)[0] ?? 'Something in the request is not right.';
  return new Refusal('bad-request', message, { fields });
}

/** What is wrong inside of something: the first part of it that breaks a rule of its own. */
const deepest = (error: ValidationError): ValidationError =>
  !error.constraints && error.children?.[0] ? deepest(error.children[0]) : error;

/** What a library refuses, by its status. */
const CODES: Record<number, ErrorCode> = { 401: 'not-signed-in', 403: 'not-allowed', 404: 'not-found', 413: 'too-large' };
const SENTENCES: Record<number, string> = { 404: 'There is nothing at this address.', 413: 'The request is too large.' };

/** Every error leaves as `{error: {code, message, fields?}}`; what was not meant for users stays in the log. */
@Catch()
export class ErrorFilter implements ExceptionFilter {
  private readonly logger = new Logger('errors');

  catch(problem: unknown, host: ArgumentsHost): void {
    const response = host.switchToHttp().getResponse<Response>();
    if (response.headersSent) {
      response.end();
      return;
    }
    const { status, body } = this.answer(problem);
    response.status(status).json(body);
  }

  private answer(problem: unknown): { status: number; body: ApiError } {
    if (problem instanceof Refusal)
      return { status: problem.getStatus(), body: { error: { code: problem.code, message: problem.message, ...problem.more } } };
    if (problem instanceof BadRequestException && /JSON/.test(problem.message)) {
      return { status: 400, body: { error: { code: 'bad-json', message: 'The request body is not valid JSON.' } } };
    }
    const disk = asRefusal(problem);
    if (disk) return this.answer(disk);
    const status = statusOf(problem);
    if (status < 500) {
      const message = SENTENCES[status] ?? (problem instanceof Error ? problem.message : 'The request was refused.');
      return { status, body: { error: { code: CODES[status] ?? 'bad-request', message } } };
    }
    this.logger.error(problem instanceof Error ? problem.stack : String(problem));
    return {
      status: 500,
      body: { error: { code: 'failed', message: 'Something went wrong on the server. Nothing was changed.' } },
    };
  }
}

function statusOf(problem: unknown): number {
  if (problem instanceof HttpException) return problem.getStatus();
  const status = (problem as { status?: unknown } | null)?.status;
  return typeof status === 'number' ? status : 500;
}
