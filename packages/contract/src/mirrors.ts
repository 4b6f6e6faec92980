import { IsBoolean, IsIn, IsString, MaxLength } from 'class-validator';
import { Maybe } from './rules';

/** What of one calendar stands in another, too. */
export interface MirrorInfo {
  id: string;
  from: string;
  to: string;
  /** What copies are called; empty: as what they are copies of. */
  title: string;
  category: string;
  private: boolean;
  /** How many entries stand there. */
  copies: number;
  version: number;
}

/** A calendar that is to stand in another, too. */
export class MirrorInput {
  @IsString() @MaxLength(200) from: string;
  @IsString() @MaxLength(200) to: string;
  /** `Busy` where it is not said; empty: as what they are copies of. */
  @Maybe() @IsString() @MaxLength(200) title?: string;
  @Maybe() @IsString() @MaxLength(200) category?: string;
  /** Others see that there is something, and not what; so where it is not said. */
  @Maybe() @IsBoolean() private?: boolean;
}

/** What becomes of the copies when a mirror ends: those that are not over go, or all stay as events of their own. */
export class MirrorEnd {
  @Maybe() @IsIn(['keep', 'remove'], { message: 'Say keep or remove.' }) copies?: 'keep' | 'remove';
}
