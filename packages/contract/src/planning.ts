import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsIn, IsInt, IsString, Matches, Max, MaxLength, Min, ValidateNested } from 'class-validator';
import { IsDay, IsWeek, Maybe, say, IsTime } from './rules';
import type { Done } from './answers';
import type { IsoTime } from './things';
import type { TimeStretch } from './yes-cost';

/** Time that a plan would set aside. */
export interface ProposedBlock extends TimeStretch {
  taskId: string;
  title: string;
  listId: string | null;
  minutes: number;
  /** The block that would go there; null for a new one. */
  block: string | null;
  /** Where it stands now. */
  was: TimeStretch | null;
  /** It ends after its task is due. */
  late: boolean;
}

/** A task that finds no place. */
export interface WithoutPlace {
  taskId: string;
  title: string;
  minutes: number;
  /** Why, and the smallest change that would let it in; sentences. */
  reason: string;
  change: string;
}

/** Time that would be given back. */
export interface GivenBack extends TimeStretch {
  block: string;
  taskId: string;
  title: string;
}

/** A plan for some days, as it would be; nothing is changed by it. */
export interface Proposal {
  from: string;
  to: string;
  blocks: ProposedBlock[];
  gone: GivenBack[];
  /** The first of those that find no place, and how many more there are. */
  without: WithoutPlace[];
  further: number;
  /** How many blocks that might have moved stay where they are. */
  stays: number;
  /** What speaks against it, in the unit of the planning problem. */
  cost: number;
}

/** A deadline, and whether the work for it still fits. */
export interface DeadlineRisk {
  taskId: string;
  title: string;
  /** Day, or wall-clock time in the user's zone. */
  deadline: string;
  fixed: boolean;
  /** Minutes of work that are left, and that are behind it. */
  minutes: number;
  spent: number;
  /** The last moment to begin; null: too late. */
  lastSafeStart: IsoTime | null;
  /** Free minutes before that which no other deadline needs. */
  slackMinutes: number;
  /** Minutes that find no place before it. */
  lateMinutes: number;
  /** The message it came from, which can ask for more time. */
  incomingId: string | null;
  /** Where most others are at risk because of it: minutes it would have to give, and the ids of those that are safe then. */
  cause: { gives: number; spares: string[] } | null;
  /** The title of such a task without which this deadline is safe: then it is not at risk by itself. */
  sparedBy: string | null;
  /** Where it is too late: what would let it fit, each by itself; null also for the later ones of very many. */
  mends: RiskMends | null;
}

export interface RiskMends {
  /** Minutes less of it. */
  shorten: number;
  /** The first moment by which it would fit; null where none is in sight. */
  later: IsoTime | null;
  /** Own time before the deadline that would do if it went elsewhere. */
  moves: (TimeStretch & { block: string; title: string })[];
}

export class ProposalQuery {
  /** First day; today when left out. */
  @Maybe() @IsDay() from?: string;
  /** From 1 to 60; 7 when left out. */
  @Maybe() @Matches(/^[1-9]\d?$/, { message: 'The number of days is from 1 to 60.' }) days?: string;
  /** Instead of both: a week. */
  @Maybe() @IsWeek() week?: string;
  /**
   * What is for these days or due in them; that and what is due soon after; all that is open; or what is on the shortlist, one
   * a day.
   */
  @Maybe()
  @IsIn(['these', 'due', 'all', 'shortlist'], { message: 'What is planned is these, due, all or shortlist.' })
  what?: 'these' | 'due' | 'all' | 'shortlist';
  /** Whether time that is set aside already may move. */
  @Maybe() @IsIn(['true', 'false'], { message: 'Say true or false.' }) again?: 'true' | 'false';
}

/** One block as it is taken from a proposal. */
export class PlanBlockInput {
  @IsString() @MaxLength(200) taskId: string;
  @IsTime() start: string;
  @IsInt(say.minutes) @Min(1, say.minutes) @Max(1440, say.minutes) minutes: number;
  /** The block that goes there; a new one where it is left out. */
  @Maybe() @IsString() @MaxLength(200) block?: string;
}

const most = { message: 'At most 500 at once.' };

/** What of a proposal is done: all, some, taken back as one. */
export class PlanTaking {
  @IsArray() @ArrayMaxSize(500, most) @ValidateNested({ each: true }) @Type(() => PlanBlockInput) blocks: PlanBlockInput[];
  /** Blocks whose time is given back. */
  @Maybe() @IsArray() @ArrayMaxSize(500, most) @IsString({ each: true }) @MaxLength(200, { each: true }) gone?: string[];
}

/** The routes of planning; a part of the table in `routes.ts`. */
export interface PlanningRoutes {
  /** A plan for some days: what would go where, what finds no place and why. Nothing is changed. */
  'GET /plan/proposal': { query: ProposalQuery; answer: Proposal; errors: 'bad-field' };
  /** Does what of a proposal is wanted. */
  'POST /plan/taking': { status: 200; body: PlanTaking; answer: Done; errors: 'bad-field' | 'not-found' };
  /** Every deadline in sight, with the last moment to begin. */
  'GET /plan/risks': { answer: { risks: DeadlineRisk[] } };
}
