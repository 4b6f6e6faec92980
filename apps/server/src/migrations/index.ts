import { First1 } from './0001-first';

export const MIGRATIONS = [First1];
