import { Inject, Injectable } from '@nestjs/common';
import { CONFIG, type Config } from './config';

/** The only clock of the server. With a fixed start it runs on from there, so that time still passes. */
@Injectable()
export class Clock {
  private readonly offset: number;

  constructor(@Inject(CONFIG) { fixedNow }: Config) {
    this.offset = fixedNow === null ? 0 : fixedNow - Date.now();
  }

  now(): number {
    return Date.now() + this.offset;
  }
}
