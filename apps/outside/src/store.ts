import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';

/** The state of one stand-in, in a JSON file of its own: it is there again after a restart. */
export class Store<T extends object> {
  readonly state: T;

  constructor(
    private readonly path: string,
    fresh: () => T,
  ) {
    this.state = existsSync(path) ? (JSON.parse(readFileSync(path, 'utf8')) as T) : fresh();
    if (!existsSync(path)) this.save();
  }

  save(): void {
    mkdirSync(dirname(this.path), { recursive: true });
    writeFileSync(`${this.path}.new`, JSON.stringify(this.state));
    renameSync(`${this.path}.new`, this.path);
  }
}

/** Answers to requests that carry an Idempotency-Key: asked again, the same answer, and nothing happens twice. */
export class Answers {
  constructor(private readonly known: Record<string, unknown>) {}

  once<T>(key: string | undefined, work: () => T): T {
    if (!key) return work();
    if (!(key in this.known)) this.known[key] = work();
    return this.known[key] as T;
  }
}
