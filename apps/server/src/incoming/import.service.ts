import { Injectable } from '@nestjs/common';
import type { ImportReport } from '@corvun/contract';
import { MAIL_LIMITS, readMbox } from '@corvun/formats';
import { createReadStream, promises as fs } from 'node:fs';
import type { User } from '../accounts/user.entity';
import { Intake, type Taken } from './intake.service';

const BATCH = 40;

export interface UploadedPart {
  name: string;
  path: string;
}

/** Brings files in: `.eml` and mbox. Every refusal says which file, where in it, and why. */
@Injectable()
export class ImportService {
  constructor(private readonly intake: Intake) {}

  async importFiles(user: User, parts: UploadedPart[]): Promise<ImportReport> {
    const report: ImportReport = { taken: 0, updated: 0, known: 0, refused: [] };
    for (const part of parts) await this.importFile(user, part, report);
    return report;
  }

  private async importFile(user: User, { name, path }: UploadedPart, report: ImportReport): Promise<void> {
    const { size } = await fs.stat(path);
    const head = await firstBytes(path, 5);
    const kind = /\.([a-z]+)$/i.exec(name)?.[1]?.toLowerCase() ?? '';
    if (kind === 'mbox' || kind === 'mbx' || head === 'From ') return this.importMbox(user, { name, path }, report);
    if (kind !== 'eml' && kind !== '') {
      report.refused.push({ file: name, at: '', reason: `Files ending in .${kind} cannot be read; .eml and .mbox can.` });
    } else if (size > MAIL_LIMITS.maxBytes) {
      report.refused.push({
        file: name,
        at: '',
        reason: `The message is ${Math.ceil(size / 1048576)} MB; the most that is taken is ${MAIL_LIMITS.maxBytes / 1048576} MB.`,
      });
    } else {
      count(report, name, '', await this.intake.takeMails(user, [await fs.readFile(path)], 'mail', false));
    }
  }

  private async importMbox(user: User, { name, path }: UploadedPart, report: ImportReport): Promise<void> {
    let number = 0;
    let batch: { at: string; bytes: Buffer }[] = [];
    const flush = async () => {
      const results = await this.intake.takeMails(
        user,
        batch.map((one) => one.bytes),
        'mail',
        false,
      );
      results.forEach((result, index) => count(report, name, batch[index]?.at ?? '', [result]));
      batch = [];
    };
    for await (const bytes of readMbox(createReadStream(path), MAIL_LIMITS.maxBytes)) {
      number += 1;
      if (!bytes)
        report.refused.push({
          file: name,
          at: `message ${number}`,
          reason: `It is larger than ${MAIL_LIMITS.maxBytes / 1048576} MB.`,
        });
      else batch.push({ at: `message ${number}`, bytes });
      if (batch.length >= BATCH) await flush();
    }
    if (batch.length) await flush();
    if (number === 0) report.refused.push({ file: name, at: '', reason: 'There is no message in this file.' });
  }
}

function count(report: ImportReport, file: string, at: string, results: (Taken | Error)[]): void {
  for (const result of results) {
    if (result instanceof Error) report.refused.push({ file, at, reason: result.message });
    else report[result.state] += 1;
  }
}

async function firstBytes(path: string, length: number): Promise<string> {
  const file = await fs.open(path, 'r');
  try {
    const { bytesRead, buffer } = await file.read(Buffer.alloc(length), 0, length, 0);
    return buffer.toString('latin1', 0, bytesRead);
  } finally {
    await file.close();
  }
}
