import { First1 } from './0001-first';
import { Sources2 } from './0002-sources';

export const MIGRATIONS = [First1, Sources2];
