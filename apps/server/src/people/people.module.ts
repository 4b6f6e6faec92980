import { Body, Controller, Delete, Get, HttpCode, Module, Param, Patch, Post, Res, StreamableFile } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import {
  PersonChange,
  PersonInput,
  PersonMail,
  PersonMerge,
  type Added,
  type Done,
  type PersonFull,
  type PersonLine,
  type PersonOpen,
} from '@corvun/contract';
import { writeVcards } from '@corvun/formats';
import type { Response } from 'express';
import { Repository } from 'typeorm';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { AgendaModule } from '../agenda/agenda.module';
import { notFound } from '../base/errors';
import { cardOf } from './card';
import { openWith } from './open-with';
import { Person } from './person.entity';
import { PersonReads } from './person-full';
import { PersonWrites } from './person-writes';

const MOST = 5000;

@Controller('api/people')
class PeopleController {
  constructor(
    @InjectRepository(Person) private readonly people: Repository<Person>,
    private readonly reads: PersonReads,
    private readonly writes: PersonWrites,
  ) {}

  /** Everybody known, by name. */
  @Get()
  all(@Owner() user: User): Promise<PersonLine[]> {
    return this.people.find({
      where: { ownerId: user.id },
      order: { name: 'ASC', id: 'ASC' },
      select: { id: true, name: true, address: true, addresses: true, organisation: true },
      take: MOST,
    });
  }

  /** What is open with whom, in numbers. */
  @Get('open')
  open(@Owner() user: User): Promise<PersonOpen[]> {
    return openWith(this.people.manager, user.id);
  }

  @Get(':id')
  one(@Owner() user: User, @Param('id') id: string): Promise<PersonFull> {
    return this.reads.full(user, id);
  }

  /** The card as a file (vCard 4, RFC 6350). */
  @Get(':id/card')
  async card(
    @Owner() user: User,
    @Param('id') id: string,
    @Res({ passthrough: true }) response: Response,
  ): Promise<StreamableFile> {
    const person = await this.people.findOneBy({ id, ownerId: user.id });
    if (!person) throw notFound('person with this id');
    response.setHeader('Content-Security-Policy', "default-src 'none'; sandbox");
    return new StreamableFile(Buffer.from(writeVcards([cardOf(person)])), {
      type: 'text/vcard; charset=utf-8',
      disposition: 'attachment; filename="person.vcf"',
    });
  }

  @Post()
  add(@Owner() user: User, @Body() input: PersonInput): Promise<Added> {
    return this.writes.add(user, input);
  }

  @Patch(':id')
  change(@Owner() user: User, @Param('id') id: string, @Body() input: PersonChange): Promise<Done> {
    return this.writes.change(user, id, input);
  }

  @Delete(':id')
  remove(@Owner() user: User, @Param('id') id: string): Promise<Done> {
    return this.writes.remove(user, id);
  }

  @Post(':id/merge')
  @HttpCode(200)
  merge(@Owner() user: User, @Param('id') id: string, @Body() { other }: PersonMerge): Promise<Done> {
    return this.writes.merge(user, id, other);
  }

  @Post(':id/mail')
  @HttpCode(200)
  mail(@Owner() user: User, @Param('id') id: string, @Body() input: PersonMail): Promise<Done> {
    return this.writes.mail(user, id, input);
  }
}

@Module({ imports: [AgendaModule], controllers: [PeopleController], providers: [PersonReads, PersonWrites] })
export class PeopleModule {}
