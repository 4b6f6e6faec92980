export type DateRole = 'deadline' | 'meeting' | 'mention';

const DEADLINE_BEFORE =
  /\b(?:by|due|before|until|till|no later than|not later than|latest by|at the latest(?: by| on)?|deadline(?: is| of)?:?|closes?(?: on)?|ends? on|expires? on|payable (?:by|until)|bis(?: spätestens)?(?: zum)?|spätestens|vor(?: dem)?|frist(?: ist)?:?|fällig(?: am)?|within)\s+(?:the\s+|am\s+|zum\s+|dem\s+|den\s+|der\s+|on\s+)?$/i;
const DEADLINE_AFTER =
  /^,?\s*(?:at the latest|latest|is the (?:deadline|last day|closing)|is when (?:we|they) close|spätestens|is the cut-?off)/i;
const DEADLINE_SENTENCE =
  /\b(?:deadline|closing date|last day|cut-?off|stichtag|abgabe(?:termin|schluss)?|due date|is due|are due|fällig)\b/i;
const MEETING_SENTENCE =
  /\b(?:meet(?:s|ing)?|talk|call with|see you|come (?:by|over|to)|join|site (?:walk|visit)|walk|visit|appointment|lunch|coffee|workshop|rehearsal|stand-?up|invite|invitation|suit(?:s)? you|work(?:s)? for you|available|free (?:on|at)|move (?:it|the|our)|reschedule|postpone|treffen|termin|besprechung|begehung|besuch|passt|kommen sie|kommst du|telefonieren|vorbei(?:kommen|schauen))\b/i;
const FIXED =
  /\b(?:cannot|can't|can not|will not|won't|must not|not) (?:be )?(?:move[d]?|extend(?:ed)?|wait|shift(?:ed)?|accept(?:ed)? later|later)\b|\bfixed\b|\b(?:no|without) (?:extension|exception)s?\b|\bhard deadline\b|\bby law\b|\bstatutory\b|\bnot later than\b|\bno later than\b|\bat the latest\b|\bspätestens\b|\bverbindlich\b|\bkeine verlängerung\b|\bnicht (?:verschieben|verschiebbar|verlängern)\b|\bclose[sd]? (?:the books|on|that)\b/i;

/** What a date in a sentence is: said to be a last day, offered for a meeting, or only mentioned. */
export function roleOf(sentence: string, dateStart: number, dateEnd: number, hasTime: boolean): DateRole {
  const before = sentence.slice(0, dateStart).replace(/\s+/g, ' ');
  const after = sentence.slice(dateEnd).replace(/\s+/g, ' ');
  if (DEADLINE_BEFORE.test(before) && !/\bmeet\w* (?:before|until)\b/i.test(before)) return 'deadline';
  if (DEADLINE_AFTER.test(after) || DEADLINE_SENTENCE.test(sentence)) return 'deadline';
  if (
    MEETING_SENTENCE.test(sentence) &&
    !/\b(?:thank|thanks|danke)\b.{0,40}$/i.test(before) &&
    !/\blast\s+(?:week|month)?\s*$/i.test(before)
  )
    return 'meeting';
  return hasTime && /\b(?:at|on|um|am)\s*$/i.test(before) && /\?/.test(sentence) ? 'meeting' : 'mention';
}

/** Whether the words around a deadline say that it will not move. `around`: its sentence and the next. */
export function saysFixed(around: string): boolean {
  return FIXED.test(around.replace(/\s+/g, ' '));
}
