import { Body, Controller, Delete, Get, HttpCode, Module, Param, Patch, Post } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { MeetingPageInput, NoteChange, NoteInput, type Added, type Done, type NoteInfo, type NoteLine } from '@corvun/contract';
import { isoInZone } from '@corvun/core';
import { In, Repository } from 'typeorm';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { badField, notFound } from '../base/errors';
import { Kernel, byUser } from '../kernel/kernel.service';
import { Incoming, StoredAttachment, attachmentInfo } from '../incoming/incoming.entity';
import { OF_NO_MEETING, meetingOf, writePage } from './meeting-pages';
import { Note } from './note.entity';

@Controller('api/notes')
class NotesController {
  constructor(
    @InjectRepository(Note) private readonly notes: Repository<Note>,
    @InjectRepository(Incoming) private readonly incoming: Repository<Incoming>,
    @InjectRepository(StoredAttachment) private readonly attachments: Repository<StoredAttachment>,
    private readonly kernel: Kernel,
  ) {}

  /** All pages, the latest changed first. */
  @Get()
  async all(@Owner() user: User): Promise<NoteLine[]> {
    const rows = await this.notes.find({
      where: { ownerId: user.id },
      order: { changed: 'DESC', id: 'ASC' },
      select: { id: true, title: true, changed: true, incomingIds: true, version: true },
    });
    return rows.map((row) => lineOf(row, user));
  }

  @Get(':id')
  async one(@Owner() user: User, @Param('id') id: string): Promise<NoteInfo> {
    const row = await this.notes.findOneBy({ id, ownerId: user.id });
    if (!row) throw notFound('note with this id');
    const from = await this.incoming.find({
      where: { ownerId: user.id, id: In(row.incomingIds) },
      order: { received: 'ASC' },
      select: { id: true, subject: true, senderName: true, senderAddress: true, received: true },
    });
    const files = await this.attachments.find({
      where: { ownerId: user.id, incomingId: In(row.incomingIds) },
      order: { position: 'ASC' },
    });
    return {
      ...lineOf(row, user),
      text: row.text,
      meeting: await meetingOf(this.notes.manager, user, row),
      from: from.map((one) => ({
        id: one.id,
        subject: one.subject,
        sender: { name: one.senderName, address: one.senderAddress },
        received: isoInZone(one.received, user.zone),
        attachmentList: files.filter((file) => file.incomingId === one.id).map(attachmentInfo),
      })),
    };
  }

  @Post()
  async add(@Owner() user: User, @Body() input: NoteInput): Promise<Added> {
    const title = titleField(input.title);
    const { decision, sentence, result } = await this.kernel.transact(byUser(user), async (work) => {
      const note = await work.insert('note', {
        title,
        text: '',
        parentId: null,
        position: work.now,
        incomingIds: [],
        ...OF_NO_MEETING,
      });
      work.say({ action: 'change', sentence: `The note “${title}” is there` });
      return note.id;
    });
    return { decision, sentence, id: result };
  }

  @Patch(':id')
  async change(@Owner() user: User, @Param('id') id: string, @Body() input: NoteChange): Promise<Done> {
    const { version, text } = input;
    const title = input.title === undefined ? undefined : titleField(input.title);
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const note = await work.find('note', id);
      const after = await work.update('note', note, { title, text }, version);
      work.say({ action: 'change', sentence: `The note “${after.title}” was changed` });
    });
    return { decision, sentence };
  }

  @Delete(':id')
  async remove(@Owner() user: User, @Param('id') id: string): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const note = await work.find('note', id);
      await work.remove('note', note);
      work.say({ action: 'change', sentence: `The note “${note.title}” was taken away` });
    });
    return { decision, sentence };
  }
}

@Controller('api/events')
class MeetingPagesController {
  constructor(private readonly kernel: Kernel) {}

  @Post(':id/page')
  @HttpCode(200)
  async write(@Owner() user: User, @Param('id') id: string, @Body() input: MeetingPageInput): Promise<Added> {
    const { decision, sentence, result } = await this.kernel.transact(byUser(user), async (work) => {
      const page = await writePage(work, user, id, input);
      work.say({ action: 'change', sentence: `The page “${page.title}” ${page.version === 1 ? 'is there' : 'was changed'}` });
      return page.id;
    });
    return { decision, sentence, id: result };
  }
}

function titleField(title: string): string {
  if (!title.trim()) throw badField('title', 'The note needs a title.');
  return title.trim();
}

const lineOf = ({ id, title, changed, incomingIds, version }: Note, user: User): NoteLine => ({
  id,
  title,
  changed: isoInZone(changed, user.zone),
  origins: incomingIds.length,
  version,
});

@Module({ controllers: [NotesController, MeetingPagesController] })
export class NotesModule {}
