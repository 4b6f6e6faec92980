import { Body, Controller, Delete, HttpCode, Module, Param, Patch, Post, Query } from '@nestjs/common';
import { BlockInput, BlockRemoval, TimesChange, type DecisionAnswer, type Done } from '@corvun/contract';
import { MINUTE, dayOf, parseIso, sayDay, sayTime } from '@corvun/core';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { badField } from '../base/errors';
import type { Task } from '../tasks/task.entity';
import { Kernel, byUser } from '../kernel/kernel.service';

@Controller('api/blocks')
class BlocksController {
  constructor(
    private readonly kernel: Kernel,
    private readonly clock: Clock,
  ) {}

  /** Sets time aside for a task; a task may have many blocks. */
  @Post()
  async add(@Owner() user: User, @Body() input: BlockInput): Promise<DecisionAnswer> {
    const start = this.startOf(user, input.start);
    const { decision, sentence, result } = await this.kernel.transact(byUser(user), async (work) => {
      const task = await work.find('task', input.taskId);
      const block = await work.insert('block', {
        kind: 'work',
        taskId: task.id,
        startAt: start,
        endAt: start + input.minutes * MINUTE,
        busy: true,
      });
      const day = dayOf(start, user.zone);
      if (!task.plannedDay || task.estimate === null)
        await work.update('task', task, {
          plannedDay: task.plannedDay ?? day,
          plannedWeek: null,
          estimate: task.estimate ?? input.minutes,
        });
      work.say({ action: 'move', sentence: `“${task.title}” has time on ${this.say(user, start)}` });
      return [{ kind: 'block' as const, id: block.id, title: task.title }];
    });
    return { decision, sentence, made: result };
  }

  /** Moves or resizes a block. */
  @Patch(':id')
  async move(@Owner() user: User, @Param('id') id: string, @Body() input: TimesChange): Promise<Done> {
    const start = this.startOf(user, input.start);
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const block = await work.find('block', id);
      await work.update('block', block, { startAt: start, endAt: start + input.minutes * MINUTE }, input.version);
      const task = block.taskId ? await work.find('task', block.taskId) : null;
      const newDay = dayOf(start, user.zone);
      if (task && task.plannedDay === dayOf(block.startAt, user.zone) && task.plannedDay !== newDay)
        await work.update('task', task, { plannedDay: newDay });
      work.say({ action: 'move', sentence: `“${task?.title ?? 'The block'}” is on ${this.say(user, start)}` });
    });
    return { decision, sentence };
  }

  /** Gives the time back; the task stays, on its day or on the one that is said. */
  @Delete(':id')
  @HttpCode(200)
  async remove(@Owner() user: User, @Param('id') id: string, @Query() { day }: BlockRemoval): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const block = await work.find('block', id);
      const task = block.taskId ? await work.find('task', block.taskId) : null;
      await work.remove('block', block);
      if (task && day) await work.update('task', task, { plannedDay: day, plannedWeek: null });
      work.say({ action: 'remove', sentence: this.freed(user, task, day) });
    });
    return { decision, sentence };
  }

  private freed(user: User, task: Task | null, day: string | undefined): string {
    const where = day ? `; it is on ${sayDay(day, dayOf(this.clock.now(), user.zone))}` : '';
    return `The time for “${task?.title ?? 'the block'}” is free again${where}`;
  }

  private startOf(user: User, text: string): number {
    const start = parseIso(text, user.zone);
    if (Number.isNaN(start)) throw badField('start', `${text} is not a time.`);
    return start;
  }

  private say(user: User, start: number): string {
    return `${sayDay(dayOf(start, user.zone), dayOf(this.clock.now(), user.zone))} at ${sayTime(start, user.zone)}`;
  }
}

@Module({ controllers: [BlocksController] })
export class BlocksModule {}
