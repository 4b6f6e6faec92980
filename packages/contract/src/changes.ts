/** One change, as the stream tells it: fetch the thing again, or forget it. */
export interface StreamChange {
  kind:
    | 'incoming'
    | 'task'
    | 'taskFile'
    | 'eventFile'
    | 'list'
    | 'view'
    | 'tag'
    | 'calendar'
    | 'event'
    | 'block'
    | 'person'
    | 'note'
    | 'source'
    | 'outbox'
    | 'import'
    | 'data'
    | 'settings'
    | 'mailWay'
    | 'reminder'
    | 'share'
    | 'meetPage'
    | 'booking'
    | 'offer'
    | 'mirror'
    | 'dayPlan'
    | 'shortlist'
    | 'timeEntry'
    | 'headsDown'
    | 'presence'
    | 'siteHold'
    | 'grace'
    | 'logLine'
    | 'checkIn'
    | 'checkInAnswer'
    | 'pass';
  ids: string[];
}

/** What one transaction changed, and its number in the log; null where only states changed that are not in the log. */
export interface Changed {
  revision: number | null;
  changes: StreamChange[];
}

/** What a request changed: the numbers of its transactions in the log, and every change. Answers to writes carry it. */
export interface ChangedByRequest {
  revisions: number[];
  changes: StreamChange[];
}
