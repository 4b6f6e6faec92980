import {
  EVENT_FIELDS,
  changeComponent,
  schedulingOf,
  schedulingPart,
  withZones,
  zoneTexts,
  type OwnText as Text,
  type Scheduling,
} from '@corvun/formats';
import { In } from 'typeorm';
import type { User } from '../accounts/user.entity';
import type { Event } from '../events/event.entity';
import { written } from '../events/written';
import type { Work } from '../kernel/work';
import { OwnText } from './own-text.entity';
import { hashOf, saidOfEvent } from './state';

/** What guests are told whatever else is said, and what is the owner's own: it stays as it is written. */
const ALWAYS = ['uid', 'status', 'guests', 'alarms'];
const OWN = ['category'];

/**
 * A message to guests (RFC 5546): each event as whoever made it has written it, with what is so now. Texts are not read for
 * it, so that nobody waits while it is written.
 * @param all among which the series are
 */
export async function schedulingText(
  work: Work,
  user: User,
  method: Scheduling,
  rows: readonly Event[],
  all: readonly Event[] = rows,
): Promise<string> {
  const series = all.find((row) => !row.recurrenceId);
  const ids = [...rows, ...(series ? [series] : [])].flatMap(({ textId }) => textId ?? []);
  const known = new Map(
    ids.length
      ? (await work.manager.findBy(OwnText, { ownerId: user.id, id: In(ids) })).map((one) => [one.id, one] as const)
      : [],
  );
  const parts = written(rows, all).map((event, at): Text => {
    const wanted = schedulingPart(method, event, { name: user.name, address: user.email }, work.now);
    const row = rows[at];
    const own = known.get(row?.textId ?? (row?.recurrenceId ? series?.textId : null) ?? '');
    if (!own || !row) return wanted;
    const isAsSaid = hashOf(saidOfEvent(row, user)) === own.said;
    const fields = isAsSaid ? ALWAYS : [...ALWAYS, ...EVENT_FIELDS.filter((one) => !OWN.includes(one))];
    const text = changeComponent(own.text, wanted.text, fields);
    return { text, around: withZones(own.around, zoneTexts(wanted.around)) };
  });
  return schedulingOf(method, parts);
}
