/** Limits of what is read from a message. What lies beyond is kept in the original and said to the user. */
export interface MailLimits {
  /** Largest message taken in, in bytes. */
  maxBytes: number;
  /** Deepest nesting of multiparts and attached messages that is opened. */
  maxDepth: number;
  /** Most parts opened in one message. */
  maxParts: number;
  /** Longest plain text kept, in characters. */
  maxText: number;
  /** Bytes of a text/calendar part that is read. */
  maxCalendar: number;
  /** Longest HTML cleaned, in characters; longer HTML is shown as plain text only. */
  maxHtml: number;
  /** Deepest HTML that is cleaned, and most elements of it; beyond, only its words are shown. */
  maxHtmlDepth: number;
  maxHtmlElements: number;
  /** Largest header block, in bytes. */
  maxHeader: number;
  maxAttachments: number;
  /** Longest subject shown, in characters. */
  maxSubject: number;
}

export const MAIL_LIMITS: MailLimits = {
  maxBytes: 50 * 1024 * 1024,
  maxDepth: 40,
  maxParts: 400,
  maxText: 500_000,
  maxCalendar: 512 * 1024,
  maxHtml: 2_000_000,
  maxHtmlDepth: 200,
  maxHtmlElements: 60_000,
  maxHeader: 1024 * 1024,
  maxAttachments: 200,
  maxSubject: 1000,
};

export type MailErrorCode = 'empty' | 'too-large' | 'not-mail';

/** A message that is refused; the message is a sentence for the user. */
export class MailError extends Error {
  constructor(
    readonly code: MailErrorCode,
    message: string,
  ) {
    super(message);
  }
}
