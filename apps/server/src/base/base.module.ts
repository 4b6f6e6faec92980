import { Global, Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { Kernel } from '../kernel/kernel.service';
import { Retention } from '../kernel/retention';
import { Turns } from '../kernel/turns.service';
import { StreamService } from '../stream/stream.service';
import { Clock } from './clock';
import { CONFIG, readConfig } from './config';
import { CorvunDataSource, readingOptions } from './data-source';
import { ENTITIES } from './entities';
import { FileStore } from './file-store';
import { Secrets } from './secrets.service';
import { Uploads } from './uploads';
import { Writes } from './writes';

/** What every module stands on: settings, clock, database, files, the journal and the stream. */
@Global()
@Module({
  imports: [
    TypeOrmModule.forRootAsync({
      useFactory: () => readingOptions(readConfig(process.env).data),
      dataSourceFactory: () => new CorvunDataSource(readConfig(process.env).data).initialize(),
    }),
    TypeOrmModule.forFeature(ENTITIES),
  ],
  providers: [
    { provide: CONFIG, useFactory: () => readConfig(process.env) },
    Clock,
    FileStore,
    Secrets,
    Uploads,
    Writes,
    StreamService,
    Kernel,
    Turns,
    Retention,
  ],
  exports: [CONFIG, Clock, FileStore, Secrets, Uploads, Writes, StreamService, Kernel, Turns, TypeOrmModule],
})
export class BaseModule {}
