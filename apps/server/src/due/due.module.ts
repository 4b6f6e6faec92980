import { Global, Module } from '@nestjs/common';
import { Jobs } from './jobs';
import { Runner } from './runner';

/** What Corvun does by itself, when it is due. */
@Global()
@Module({ providers: [Runner, Jobs], exports: [Runner, Jobs] })
export class DueModule {}
