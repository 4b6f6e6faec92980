/** A calendar that cannot be read; the message is a sentence for the user. */
export class CalendarError extends Error {
  readonly code = 'not-a-calendar';
}
