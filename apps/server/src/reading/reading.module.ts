import { Global, Module } from '@nestjs/common';
import { ReadingPool } from './reading-pool.service';

/** The threads in which everything that arrives is read. */
@Global()
@Module({ providers: [ReadingPool], exports: [ReadingPool] })
export class ReadingModule {}
