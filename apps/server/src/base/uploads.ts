import { Inject, Injectable, Logger, type OnApplicationBootstrap, type OnModuleDestroy } from '@nestjs/common';
import { mkdirSync, promises as fs } from 'node:fs';
import { join } from 'node:path';
import { diskStorage } from 'multer';
import { UPLOADS } from '@corvun/keeping';
import { CONFIG, type Config } from './config';
import { newId } from './ids';

/** How often what was left behind is looked for, and how old it has to be while the server runs. Milliseconds. */
const SWEEP_EVERY = 3_600_000;
const LEFT_BEHIND = 6 * 3_600_000;

/** The name of a file as the browser sent it: UTF-8, which the form parser reads as Latin-1. */
export const nameOfUpload = ({ originalname }: { originalname: string }): string =>
  Buffer.from(originalname, 'latin1').toString('utf8').slice(-200);

/** Files on their way in: half of an upload whose sender went away, or of a server that was killed, is taken away again. */
@Injectable()
export class Uploads implements OnApplicationBootstrap, OnModuleDestroy {
  readonly folder: string;
  private readonly logger = new Logger('uploads');
  private readonly wanted: (() => Promise<ReadonlySet<string>>)[] = [];
  private timer: NodeJS.Timeout | undefined;

  constructor(@Inject(CONFIG) { data }: Config) {
    this.folder = join(data, UPLOADS);
    mkdirSync(this.folder, { recursive: true, mode: 0o700 });
  }

  /** How an upload is taken: into this folder, under a name of ours. */
  taking(limits: { fileSize: number; files: number; fields: number }) {
    const filename = (_request: unknown, _file: unknown, done: (problem: null, name: string) => void) => done(null, newId());
    return { storage: diskStorage({ destination: this.folder, filename }), limits };
  }

  /** A path for a new temporary file. */
  fresh(kind: string): string {
    return join(this.folder, `${kind}-${newId()}`);
  }

  /** Adds someone who knows paths of files that are still wanted after the server ended. */
  keepFor(wanted: () => Promise<ReadonlySet<string>>): void {
    this.wanted.push(wanted);
  }

  async onApplicationBootstrap(): Promise<void> {
    await this.sweep(0);
    this.timer = setInterval(
      () => void this.sweep(LEFT_BEHIND).catch((problem: unknown) => this.logger.warn(problem)),
      SWEEP_EVERY,
    );
    this.timer.unref();
  }

  onModuleDestroy(): void {
    clearInterval(this.timer);
  }

  /** Takes away what nobody wants and is older than `age`. */
  async sweep(age: number): Promise<void> {
    const wanted = new Set((await Promise.all(this.wanted.map((one) => one()))).flatMap((paths) => [...paths]));
    for (const name of await fs.readdir(this.folder)) {
      const path = join(this.folder, name);
      const found = await fs.stat(path).catch(() => null);
      if (found && !wanted.has(path) && Date.now() - found.mtimeMs >= age) await fs.rm(path, { recursive: true, force: true });
    }
  }
}
