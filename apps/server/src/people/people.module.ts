import { Controller, Get, Module } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { PersonLine } from '@corvun/contract';
import { Repository } from 'typeorm';
import { Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { Person } from './person.entity';

const MOST = 1000;

@Controller('api/people')
class PeopleController {
  constructor(@InjectRepository(Person) private readonly people: Repository<Person>) {}

  /** Everybody known, by name. */
  @Get()
  all(@Owner() user: User): Promise<PersonLine[]> {
    return this.people.find({
      where: { ownerId: user.id },
      order: { name: 'ASC', id: 'ASC' },
      select: { id: true, name: true, address: true },
      take: MOST,
    });
  }
}

@Module({ controllers: [PeopleController] })
export class PeopleModule {}
