import { IsString, Length } from 'class-validator';
import type { Done } from './answers';
import { Maybe, IsTime } from './rules';
import type { IsoTime } from './things';

/** Time in which it is quiet. */
export interface QuietTime {
  from: IsoTime;
  until: IsoTime;
  /** What one wanted to do in it; empty where nothing says. */
  title: string;
  /** What is held back in it; what lies below these hosts belongs to them. */
  sites: string[];
}

/** A time in which a site was looked at all the same. */
export interface GraceInfo {
  site: string;
  from: IsoTime;
  until: IsoTime;
}

/** What is held back, now and next. */
export interface QuietState {
  at: IsoTime;
  zone: string;
  quiet: QuietTime | null;
  /** What begins today by itself after it. */
  next: QuietTime | null;
  /** What is held back wherever nothing else is said. */
  sites: string[];
  /** Those of today, in order. */
  graces: GraceInfo[];
  /** When what holds sites back was heard of last; null: it never was. */
  extension: IsoTime | null;
}

export class GraceInput {
  /** Its host, or an address on it. */
  @IsString() @Length(1, 300, { message: 'A site has 1 to 300 characters.' }) site: string;
  /** When it was opened, where the server was away then; left out: now. */
  @Maybe() @IsTime() at?: string;
}

/** The routes of quiet time; a part of the table in `routes.ts`. */
export interface QuietRoutes {
  /** What is held back, now and next. */
  'GET /quiet': { answer: QuietState };
  /** The same, asked by what holds sites back: it is noted that it is there. */
  'POST /quiet/here': { status: 200; answer: QuietState };
  /** Lets a site be looked at for five minutes, which are counted; one that may be looked at already is not let anew. */
  'POST /quiet/graces': { status: 200; body: GraceInput; answer: Done & { grace: GraceInfo }; errors: 'bad-field' | 'not-quiet' };
}
