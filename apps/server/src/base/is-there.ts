import { Raw, type FindOperator } from 'typeorm';

/** A column that holds something, written so that an index over just those rows is used: `NOT (… IS NULL)` is not seen as the same. */
export const isThere = (): FindOperator<never> => Raw((column) => `${column} IS NOT NULL`) as FindOperator<never>;
