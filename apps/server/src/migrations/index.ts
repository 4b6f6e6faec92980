import { First1 } from './0001-first';
import { Sources2 } from './0002-sources';
import { CaptureKeys3 } from './0003-capture-keys';
import { Search4 } from './0004-search';
import { Sending5 } from './0005-sending';
import { Notes6 } from './0006-notes';
import { Firm7 } from './0007-firm';
import { Log8 } from './0008-log';
import { Jobs9 } from './0009-jobs';
import { Parents10 } from './0010-parents';
import { Belonging11 } from './0011-belonging';
import { Sheet12 } from './0012-sheet';
import { Lists13 } from './0013-lists';
import { Settings14 } from './0014-settings';
import { People15 } from './0015-people';
import { FileWords16 } from './0016-file-words';
import { Making17 } from './0017-making';
import { Reminders18 } from './0018-reminders';
import { Buffers19 } from './0019-buffers';
import { Others20 } from './0020-others';
import { Dav21 } from './0021-dav';
import { Accounts23 } from './0023-accounts';
import { Mirrors22 } from './0022-mirrors';
import { EventFiles24 } from './0024-event-files';
import { PinnedBlocks25 } from './0025-pinned-blocks';
import { Rounds26 } from './0026-rounds';
import { Passes27 } from './0027-passes';
import { Shortlist28 } from './0028-shortlist';
import { Doing29 } from './0029-doing';
import { Lookback30 } from './0030-lookback';
import { Quiet31 } from './0031-quiet';
import { MeetingPages32 } from './0032-meeting-pages';
import { Doors33 } from './0033-doors';
import { OwnText34 } from './0034-own-text';
import { MailWay35 } from './0035-mail-way';
import { Beside36 } from './0036-beside';

export const MIGRATIONS = [
  First1,
  Sources2,
  CaptureKeys3,
  Search4,
  Sending5,
  Notes6,
  Firm7,
  Log8,
  Jobs9,
  Parents10,
  Belonging11,
  Sheet12,
  Lists13,
  Settings14,
  People15,
  FileWords16,
  Making17,
  Reminders18,
  Buffers19,
  Others20,
  Dav21,
  Mirrors22,
  Accounts23,
  EventFiles24,
  PinnedBlocks25,
  Rounds26,
  Passes27,
  Shortlist28,
  Doing29,
  Lookback30,
  Quiet31,
  MeetingPages32,
  Doors33,
  OwnText34,
  MailWay35,
  Beside36,
];
