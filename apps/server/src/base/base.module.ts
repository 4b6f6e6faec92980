import { Global, Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import type { DataSourceOptions } from 'typeorm';
import { Journal } from '../decisions/journal.service';
import { StreamService } from '../stream/stream.service';
import { Clock } from './clock';
import { CONFIG, readConfig } from './config';
import { CorvunDataSource, dataSourceOptions } from './data-source';
import { ENTITIES } from './entities';
import { FileStore } from './file-store';
import { Uploads } from './uploads';
import { Writes } from './writes';

/** What every module stands on: settings, clock, database, files, the journal and the stream. */
@Global()
@Module({
  imports: [
    TypeOrmModule.forRootAsync({
      useFactory: () => dataSourceOptions(readConfig(process.env).data),
      dataSourceFactory: (options) => new CorvunDataSource(options as DataSourceOptions).initialize(),
    }),
    TypeOrmModule.forFeature(ENTITIES),
  ],
  providers: [
    { provide: CONFIG, useFactory: () => readConfig(process.env) },
    Clock,
    FileStore,
    Uploads,
    Writes,
    StreamService,
    Journal,
  ],
  exports: [CONFIG, Clock, FileStore, Uploads, Writes, StreamService, Journal, TypeOrmModule],
})
export class BaseModule {}
