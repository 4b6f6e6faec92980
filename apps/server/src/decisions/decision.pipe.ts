import { ValidationPipe, type ArgumentMetadata, type PipeTransform } from '@nestjs/common';
import { DECIDE_INPUTS, type DecideInput } from '@corvun/contract';
import { DESTINATIONS, DESTINATION_NAMES, type Destination } from '@corvun/core';
import { Refusal, fromValidation } from '../base/errors';

/** Reads a decision by the rules of its destination; what it does not take is said, not left out. */
export class DecisionPipe implements PipeTransform<unknown, Promise<DecideInput>> {
  transform(value: unknown, metadata: ArgumentMetadata): Promise<DecideInput> {
    const to = (value as { to?: unknown } | null)?.to;
    if (!DESTINATION_NAMES.includes(to as Destination)) {
      const message = `The destination is one of: ${DESTINATION_NAMES.join(', ')}.`;
      throw new Refusal('bad-request', message, { fields: { to: message } });
    }
    const { name } = DESTINATIONS[to as Destination];
    const rules = new ValidationPipe({
      transform: true,
      whitelist: true,
      forbidNonWhitelisted: true,
      exceptionFactory: (errors) => fromValidation(errors, (field) => `“${name}” takes no field called “${field}”.`),
    });
    return rules.transform(value, { ...metadata, metatype: DECIDE_INPUTS[to as Destination] }) as Promise<DecideInput>;
  }
}
