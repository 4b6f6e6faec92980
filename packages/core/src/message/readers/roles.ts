export type DateRole = 'deadline' | 'meeting' | 'mention';

const DEADLINE_BEFORE =
  /(?<!\b(?:come|comes|came|coming|drop|drops|stop|stops|pass|passed|walk|go|went|swing) )\b(?:by|due|before|until|till|no later than|not later than|latest by|at the latest(?: by| on)?|deadline(?: is| of)?:?|closes?(?: on)?|ends?(?: on)?|endet|schließt|läuft (?:\S+ )?(?:ab|aus)|expires?(?: on)?|runs? out(?: on)?|payable (?:by|until)|bis(?: spätestens)?(?: zum)?|spätestens|vor(?: dem)?|frist(?: ist)?:?|fällig(?: am)?|within|any chance of)\s+(?:the\s+|am\s+|zum\s+|dem\s+|den\s+|der\s+|on\s+)?$/i;
/** "Nothing that reaches us after 14 August …": what comes later does not count. */
const TOO_LATE = /\b(?:after|later than|past|nach(?: dem)?)\s+(?:the\s+)?$/i;
const NOT_COUNTED = /\b(?:nothing|not|cannot|can't|won't|no longer|too late|nichts|nicht|kein\w*)\b/i;
const COMES_IN =
  /\b(?:reach\w*|arriv\w*|receiv\w*|com(?:es?|ing) in|sent|submitted|handed in|eintr\w+|eingeh\w*|eingereicht\w*|ankomm\w*)\b/i;
/** What one does not go to, although it begins at a time. */
const NOT_GONE_TO =
  /\b(?:sales?|registration|bookings?|enrol?ment|tickets?|vorverkauf|verkauf|anmeldung)\b.{0,40}\b(?:begins?|starts?|opens?|beginnt|startet|öffnet)\b[^.?!;]*$/i;
/** "He cannot come on Tuesday": not then. */
const NOT_THEN = /\b(?:cannot|can't|can not|(?:not|un)able to|kann nicht|können nicht|geht nicht)\b[^,;.?]{0,30}$/i;
/** "after lunch" says when, and invites nobody to lunch. */
const MEAL_AS_TIME =
  /\b(?:after|before|until|around|over|nach dem|vor dem|bis zum) (?:lunch|dinner|supper|breakfast|coffee|mittagessen|essen|frühstück)\b/gi;

/** How long someone or something is not there: no one else has to be ready by then. */
const AWAY =
  /\b(?:out of (?:the )?office|away|closed|on leave|on holiday|ill|open|stays?|shows?|on show|lasts?|abwesend|im urlaub|nicht im büro|geschlossen|gesperrt|nicht (?:besetzt|erreichbar|da))\b.{0,30}\b(?:until|till|to|through|bis(?: zum)?)\s+(?:the\s+)?$/i;
/** "I need it Friday": when something is needed is when it must be there, unless it is needed for that day. */
const NEEDED =
  /\b(?:needs?|brauchen?|braucht) (?:it|them|this|that|these|those|es|sie|ihn|das|die)(?: (?:back|ready|here|zurück|fertig))?\s*(?:on )?$/i;
const NOT_BEFORE = /\b(?:not|nicht|never)\b.{0,24}\b(?:before|vor|until)(?: dem)?\s+$|,\s*(?:not|nicht)\s+(?:on )?$/i;
/** "Correct it before it goes to the printer on 12 August": what happens then ends the time for it. */
const BEFORE_THAT = /\b(?:before|bevor) (?:it|they|we|this|that|these|the \p{L}+|d(?:er|ie|as) \p{L}+|es|sie|wir)\b.{0,60}$/iu;
/** The day something is moved away from. */
const MOVED_FROM = /\b(?:mov|shift|postpon|reschedul|verschieb|verschob|verleg)\p{L}*\b.*\b(?:from|vom|von)(?: the| dem)?\s*$/iu;
const MOVED_TO = /\b(?:moved|shifted|postponed|rescheduled|verlegt|verschoben)\b.*\b(?:to|auf)(?: the| den)?\s*$/i;
const WITHIN = /^(?:within|no later than|innerhalb|binnen)\b/i;
const DEADLINE_AFTER =
  /^,?\s*(?:at the latest|latest|is the (?:deadline|last day|closing)|is when (?:we|they) close|spätestens|is the cut-?off)/i;
const DEADLINE_SENTENCE =
  /\b(?:deadline|closing date|last day|cut-?off|stichtag|abgabe(?:termin|schluss)?|due date|(?:must|should|has to|have to) (?:be with|reach) (?:us|me)|is due|are due|fällig)\b/i;
const MEETING_SENTENCE =
  /\b(?:meet(?:s|ing)?|talk|call with|see you|come (?:by|over|to)|join|site (?:walk|visit)|walk|visit|appointment|lunch|coffee|dinner|supper|breakfast|panel|prefer|stand in for|save the date|workshop|rehearsal|hearing|takes? place|table for|(?:shall|will|'ll) be at the|(?:one|which|either) of (?:the|these|two|three)(?: two| three)? (?:dates|days|times)|next (?:one|meeting|date) (?:is|will be)|nächste (?:ist|probe|sitzung)|findet|probe|anhörung|sitzung|stand-?up|invite|invitation|would like to (?:come|bring|visit|see|meet)|suit(?:s|ed)?\b|work(?:s)? for you|(?<!not )available|free (?:on|at)|move (?:it|the|our)|reschedule|postpone|a word with|time for a (?:word|chat)|(?:have|got) (?:a (?:minute|moment)|time)|(?:he|she|they) (?:offers?|suggests?|proposes?)|hast du .{0,30}\bzeit|haben sie .{0,30}\bzeit|schl(?:age|ägt) .{0,40}\bvor|treffen|sehen uns|termin|besprechung|begehung|besuch|passt|kommen sie|kommst du|telefonieren|vorbei(?:kommen|schauen))\b/i;
const FIXED =
  /\b(?:cannot|can't|can not|will not|won't|must not|not) (?:be )?(?:move[d]?|extend(?:ed)?|wait|shift(?:ed)?|accept(?:ed)? later|later)\b|\bfixed\b|\b(?:no|without) (?:extension|exception)s?\b|\bhard deadline\b|\bby law\b|\bstatutory\b|\bnot later than\b|\bno later than\b|\bat the latest\b|\bspätestens\b|\bverbindlich\b|\bkeine verlängerung\b|\bnicht (?:verschieben|verschiebbar|verlängern)\b|\bclose[sd]? (?:the books|on|that)\b/i;

/** "The clinic is on Saturday at 9:00", "she reads on Thursday, 19:30": what takes place at a time one can go to. */
const TAKES_PLACE =
  /\b(?:is|are|will be|begins?|starts?|opens?|reads?|plays?|sings?|speaks?|(?:is|was|has been) moved|ist|sind|beginnt|startet|liest|spielt|singt|spricht|verlegt)\b[^.?!;]*$/i;

/** "I'll send it by Friday": what the writer promises is no deadline of the reader. */
const PROMISE =
  /^(?:.*\b(?:and|but|so|und|aber|then|dann) )?(?:(?:i|we)(?:['’]ll| will| shall|['’](?:m|re) going to| (?:am|are) going to| hope to| plan to| aim to| intend to| expect to| promised?(?: (?:them|him|her|it|the \p{L}+))?|['’]ve promised| have promised| want to)\b(?!.*\b(?:need|require|ask|expect you)\b)|you(?:['’]ll| will| shall)? (?:get|have|receive|hear)\b(?! to)|(?:ich|wir) (?!brauch|benötig|bitt|erwart|möcht|müss|muss)\p{L}+e?n?\b(?!.*\b(?:bitte|von (?:ihnen|dir|euch))\b)|(?:sie|du|ihr) (?:bekomm|erhalt|hör|krieg)\p{L}+\b)/iu;

/** The clause in which a sentence names a date: what stands between the last stop before it and the date. */
function clauseBefore(before: string): string {
  return (
    before
      .split(/[;.!?:]\s|,\s(?!\d|(?:\p{L}+ )?\d)|\s[–—-]\s/u)
      .at(-1)
      ?.trim() ?? ''
  );
}

/** What a date in a sentence is: said to be a last day, offered for a meeting, or only mentioned. */
export function roleOf(whole: string, dateStart: number, dateEnd: number, hasTime: boolean): DateRole {
  const sentence = whole.replace(MEAL_AS_TIME, (words) => ' '.repeat(words.length));
  const before = sentence.slice(0, dateStart).replace(/\s+/g, ' ');
  if (WITHIN.test(sentence.slice(dateStart, dateEnd))) return 'deadline';
  const after = sentence.slice(dateEnd).replace(/\s+/g, ' ');
  if (PROMISE.test(clauseBefore(before)) && !MEETING_SENTENCE.test(sentence) && !/\?\s*$/.test(sentence)) return 'mention';
  if (AWAY.test(before) || NOT_BEFORE.test(before) || MOVED_FROM.test(before)) return 'mention';
  if (TOO_LATE.test(before) && NOT_COUNTED.test(sentence) && COMES_IN.test(sentence)) return 'deadline';
  if (DEADLINE_BEFORE.test(before) && !/\bmeet\w* (?:before|until)\b/i.test(before)) return 'deadline';
  if (DEADLINE_AFTER.test(after) || DEADLINE_SENTENCE.test(sentence)) return 'deadline';
  if (NOT_THEN.test(before)) return 'mention';
  if (NOT_GONE_TO.test(before)) return 'mention';
  if (
    MEETING_SENTENCE.test(sentence) &&
    !/\b(?:thank|thanks|danke)\b.{0,40}$/i.test(before) &&
    !/\blast\s+(?:week|month)?\s*$/i.test(before)
  )
    return 'meeting';
  if (MOVED_TO.test(before)) return 'meeting';
  if (BEFORE_THAT.test(before)) return 'deadline';
  if (hasTime && (/\?/.test(sentence) || (TAKES_PLACE.test(before) && !PAST.test(before)))) return 'meeting';
  return NEEDED.test(before) ? 'deadline' : 'mention';
}

/** Whether the words around a deadline say that it will not move. `around`: its sentence and the next. */
export function saysFixed(around: string): boolean {
  return FIXED.test(around.replace(/\s+/g, ' '));
}

/** "The meeting is moved": it is still to come. */
const IS_MOVED =
  /\b(?:is|are|has been|have been|wird|werden|ist|sind)\b.{0,30}\b(?:moved|shifted|postponed|rescheduled|brought forward|verschoben|verlegt|vorverlegt)\b/i;
const PAST =
  /\b(?:was|were|had|did|came|went|saw|stood|took|gave|got|made|said|told|sent|met|found|left|lost|ate|ran|sat|heard|wrote|brought|thought|stole|broke|fell|flew|grew|drove|kept|led|spoke|rang|swam|won|began|held|knew|paid|sold|slept|\p{L}{3,}ed|war|waren|hatte|hatten|kam|kamen|ging|sah|sahen|stand|lief|habe|haben|hast|wurde|wurden|hat (?:.{0,60} )?(?:ge\p{L}+(?:t|en)|\p{L}+ge\p{L}+(?:t|en))|haben? .{0,60}ge\p{L}+(?:t|en))\b/iu;
const AHEAD =
  /\b(?:will|shall|would|going to|can|could|(?<!\d |\d\. )may|must|should|wird|werden|sollen|soll|kann|können|könnten|bitte|please)\b|'ll\b/i;

/** Whether a sentence tells of something that has been: its bare "on Friday" is then the one before. */
export function tellsPast(sentence: string, dateStart: number): boolean {
  if (
    /\b(?:since|seit|(?:minutes|notes|photos?|mail|letter) (?:of|from)|thank(?:s| you)(?: so much| very much)? for(?: the \w+)?(?: on)?|dated|vom)\s+$/i.test(
      sentence.slice(0, dateStart),
    )
  )
    return true;
  return PAST.test(sentence) && !IS_MOVED.test(sentence) && !AHEAD.test(sentence) && !/\?\s*$/.test(sentence);
}
