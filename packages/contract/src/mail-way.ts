import { IsIn, IsInt, IsString, Length, Matches, Max, MaxLength, Min } from 'class-validator';
import { Maybe } from './rules';

/** How the line to a mail server is encrypted: from its first byte, after STARTTLS (RFC 3207), or not. */
export const MAIL_SECURITY = ['tls', 'starttls', 'none'] as const;
export type MailSecurity = (typeof MAIL_SECURITY)[number];

const host = { message: 'Write the name of the mail server, like mail.alderfen.example.' };
const port = { message: 'A port is a whole number from 1 to 65535.' };

/** Where mail is handed over (RFC 6409). */
export class MailWayInput {
  @IsString() @Length(1, 253, host) @Matches(/^(?:[a-z0-9](?:[a-z0-9.-]*[a-z0-9])?|[0-9a-f:.]+)$/i, host) host: string;
  @IsInt(port) @Min(1, port) @Max(65535, port) port: number;
  @IsIn(MAIL_SECURITY, { message: 'The line is tls, starttls or none.' }) security: MailSecurity;
  /** Empty: mail is handed over without a name. */
  @IsString() @MaxLength(320) user: string;
  /** Left out: the one that is kept for this host and user. */
  @Maybe() @IsString() @MaxLength(1000) secret?: string;
}

/** How mail leaves. */
export interface MailWayInfo {
  /** The account's own way, without its password. */
  own: { host: string; port: number; security: MailSecurity; user: string; hasSecret: boolean } | null;
  /** Whether the server has one for everybody. */
  ofServer: boolean;
}
