import { MIGRATIONS } from '../migrations';

/** The names under which the migrations stand in the database, oldest first. */
export const MIGRATION_NAMES = MIGRATIONS.map((Migration) => new Migration().name);
