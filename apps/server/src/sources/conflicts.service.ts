import type { Done } from '@corvun/contract';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Refusal } from '../base/errors';
import { Incoming } from '../incoming/incoming.entity';
import { Kernel, byUser } from '../kernel/kernel.service';
import { Task } from '../tasks/task.entity';
import { AccountSettling } from './account/account-settling';
import { Counterpart, Source } from './source.entity';
import { GONE, patchOf } from './two-way.service';

/** Settles what was changed differently here and in a source, the way the user says. */
@Injectable()
export class ConflictsService {
  constructor(
    @InjectRepository(Incoming) private readonly incoming: Repository<Incoming>,
    private readonly kernel: Kernel,
    private readonly accounts: AccountSettling,
  ) {}

  async settle(user: User, incomingId: string, keep: 'here' | 'there'): Promise<Done> {
    const about = (await this.incoming.findOneBy({ ownerId: user.id, id: incomingId }))?.conflict?.remoteId;
    const there = about ? await this.accounts.read(user, about) : null;
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const incoming = await work.find('incoming', incomingId);
      const { conflict } = incoming;
      if (!conflict || incoming.state !== 'waiting')
        throw new Refusal('no-conflict', 'There is nothing to settle here any more.');
      const { remoteId } = conflict;
      if (remoteId) return this.accounts.settle(work, user, incoming, { remoteId, keep, there });
      const counterpart = await work.manager.findOneBy(Counterpart, { id: conflict.counterpartId, ownerId: user.id });
      const task = await work.manager.findOneBy(Task, { id: conflict.taskId, ownerId: user.id });
      const source = counterpart ? await work.manager.findOneBy(Source, { id: counterpart.sourceId }) : null;
      await work.update('incoming', incoming, { state: 'decided', outcome: 'done', decided: work.now });
      if (conflict.fields.some((one) => one.field === GONE)) {
        if (keep === 'there' && task) await work.update('task', task, { status: 'CANCELLED' });
        work.say({
          action: 'decide',
          incomingIds: [incomingId],
          sentence: `“${incoming.subject}” ${keep === 'there' ? 'is dropped here, too' : 'stays open here, on its own'}`,
        });
      }
      if (counterpart && task && source) {
        // What is there becomes the common state; keeping what is here is then a change that goes back.
        const there = Object.fromEntries(conflict.fields.map((one) => [one.field, one.there]));
        if (keep === 'there') await work.update('task', task, patchOf(there, task, source.settings, work.now));
        await work.update('counterpart', counterpart, { base: { ...counterpart.base, ...there } });
      }
      return {
        sentence: `“${incoming.subject}”: what stands ${keep === 'here' ? 'here' : `in ${source?.name ?? 'the source'}`} is kept`,
        result: null,
      };
    });
    return { decision, sentence };
  }
}
