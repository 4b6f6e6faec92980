import { Global, Module } from '@nestjs/common';
import { Jobs } from './jobs';
import { Runner } from './runner';
import { Statistics } from './statistics';

/** What Corvun does by itself, when it is due. */
@Global()
@Module({ providers: [Runner, Jobs, Statistics], exports: [Runner, Jobs, Statistics] })
export class DueModule {}
