import { Access, User } from '../accounts/user.entity';
import { DavGone, DavName } from '../dav/dav.entities';
import { Job } from '../due/job.entity';
import { ImportRun } from '../imports/import.entity';
import { EntryAbout } from '../kernel/entry-about.entity';
import { SettingsRow } from '../settings/settings.entity';
import { MailWay } from '../mail-way/mail-way.entity';
import { OWNED } from '../kernel/kinds';
import { About } from './about.entity';

/** Every table: what users own, and what belongs to the server itself. */
export const ENTITIES = [
  About,
  User,
  Access,
  ImportRun,
  Job,
  EntryAbout,
  SettingsRow,
  MailWay,
  DavName,
  DavGone,
  ...OWNED.map(({ entity }) => entity as new () => object),
];
