import { Inject, Injectable } from '@nestjs/common';
import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto';
import { closeSync, fsyncSync, openSync, readFileSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import { CONFIG, type Config } from './config';

const CIPHER = 'aes-256-gcm';
const KEY_BYTES = 32;
const IV_BYTES = 12;
const TAG_BYTES = 16;

/** Encrypts credentials with a key that is kept in a file of its own, outside the database. */
@Injectable()
export class Secrets {
  private key: Buffer | undefined;

  constructor(@Inject(CONFIG) private readonly config: Config) {}

  /** @param owner binds the text to its row: copied into another row it cannot be read */
  lock(plain: string, owner: string): string {
    const iv = randomBytes(IV_BYTES);
    const cipher = createCipheriv(CIPHER, this.theKey(), iv).setAAD(Buffer.from(owner));
    const text = Buffer.concat([cipher.update(plain, 'utf8'), cipher.final()]);
    return Buffer.concat([iv, cipher.getAuthTag(), text]).toString('base64');
  }

  /** @throws Error when the key is another one, or the text was changed */
  open(locked: string, owner: string): string {
    const bytes = Buffer.from(locked, 'base64');
    const decipher = createDecipheriv(CIPHER, this.theKey(), bytes.subarray(0, IV_BYTES)).setAAD(Buffer.from(owner));
    decipher.setAuthTag(bytes.subarray(IV_BYTES, IV_BYTES + TAG_BYTES));
    return Buffer.concat([decipher.update(bytes.subarray(IV_BYTES + TAG_BYTES)), decipher.final()]).toString('utf8');
  }

  private theKey(): Buffer {
    if (this.key) return this.key;
    const path = join(this.config.data, 'key');
    try {
      const file = openSync(path, 'wx', 0o600);
      writeSync(file, randomBytes(KEY_BYTES));
      fsyncSync(file);
      closeSync(file);
    } catch (problem) {
      if ((problem as NodeJS.ErrnoException).code !== 'EEXIST') throw problem;
    }
    const key = readFileSync(path);
    if (key.length !== KEY_BYTES) throw new Error('The key file is not the one that was made here.');
    this.key = key;
    return key;
  }
}
