import type { User } from '../accounts/user.entity';
import { Refusal } from '../base/errors';
import type { Incoming } from '../incoming/incoming.entity';
import { messageIdOf } from '../incoming/reading';
import type { Work } from '../kernel/work';
import { noteSending } from '../sources/note-sending';

export interface SchedulingMail {
  to: { name: string; address: string };
  subject: string;
  text: string;
  calendar: { method: string; text: string };
}

/** Notes a scheduling mail in the outbox, in the transaction of what it tells. @param incoming what it answers */
export async function schedulingMail(
  work: Work,
  user: User,
  { to, subject, text, calendar }: SchedulingMail,
  incoming: Incoming | null = null,
): Promise<void> {
  if (!to.address) throw new Refusal('no-address', 'The invitation does not say to whom the answer goes.');
  await noteSending(work, {
    kind: 'mail',
    what: `Mail to ${to.name || to.address}: ${subject}`,
    payload: {
      to: [to],
      from: { name: user.name, address: user.email },
      subject,
      text,
      calendar,
      ...(incoming ? { inReplyTo: messageIdOf(incoming) } : {}),
    },
  });
}
