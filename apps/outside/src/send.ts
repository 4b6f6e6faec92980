import { createTransport } from 'nodemailer';
import { iso, now } from './clock';

export interface Draft {
  from: string;
  to: string;
  subject: string;
  text: string;
}

/** What became of a letter: accepted, or the answer of the receiving server. */
export interface Sent extends Draft {
  at: string;
  problem: string | null;
}

/** Sends a letter to Corvun's mail intake over SMTP, as any mail program would. */
export async function sendLetter(
  draft: Draft,
  attachments: { filename: string; content: Buffer }[],
  smtpPort: number,
  calendar?: { method: string; content: string },
): Promise<Sent> {
  const transport = createTransport({
    host: '127.0.0.1',
    port: smtpPort,
    secure: false,
    ignoreTLS: true,
    connectionTimeout: 5000,
    greetingTimeout: 5000,
    socketTimeout: 20_000,
  });
  try {
    await transport.sendMail({ ...draft, attachments, date: new Date(now()), ...(calendar ? { icalEvent: calendar } : {}) });
    return { ...draft, at: iso(), problem: null };
  } catch (problem) {
    return { ...draft, at: iso(), problem: problem instanceof Error ? problem.message : String(problem) };
  } finally {
    transport.close();
  }
}
